import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { MenuItem } from 'primeng/api';
import { Button } from 'primeng/button';
import { Menu } from 'primeng/menu';
import type { Pickable } from './pick';

/** A button that offers several things to do. */
@Component({
  selector: 'twin-menu-button',
  imports: [Button, Menu],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-button
      [label]="label()"
      [icon]="icon()"
      [iconPos]="label() ? 'right' : 'left'"
      [text]="true"
      [title]="label() ? '' : name()"
      size="small"
      [disabled]="fixed()"
      [ariaLabel]="name() || label()"
      (onClick)="menu.toggle($event)"
    />
    <p-menu #menu [model]="items()" [popup]="true" appendTo="body" />
  `,
  styles: `
    :host { display: inline-block; }
  `,
})
export class MenuButton<T extends string> {
  /** Nothing for one that is an icon alone, with its name in the tooltip. */
  readonly label = input('');
  readonly icon = input('pi pi-angle-down');
  /** What a screen reader says instead of the label. */
  readonly name = input('');
  readonly options = input.required<readonly Pickable<T>[]>();
  readonly fixed = input(false);
  readonly chosen = output<T>();

  protected readonly items = computed((): MenuItem[] =>
    this.options().map(({ value, label }) => ({ label, command: () => this.chosen.emit(value) })),
  );
}
