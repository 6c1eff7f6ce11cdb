import type { Routes } from '@angular/router';

export const routes: Routes = [
  { path: '', title: 'Desk · Inkwell Twin', loadComponent: () => import('./desk/desk').then((m) => m.Desk) },
  {
    path: 'masters/:id',
    title: 'Master · Inkwell Twin',
    canDeactivate: [(page: { mayLeave(): boolean | Promise<boolean> }) => page.mayLeave()],
    loadComponent: () => import('./master/master-page').then((m) => m.MasterPage),
  },
  {
    path: 'house',
    title: 'House rules · Inkwell Twin',
    loadComponent: () => import('./house/house-page').then((m) => m.HousePage),
  },
  {
    path: 'bench',
    title: 'Bench · Inkwell Twin',
    loadComponent: () => import('./bench/bench-page').then((m) => m.BenchPage),
  },
  { path: '**', redirectTo: '' },
];
