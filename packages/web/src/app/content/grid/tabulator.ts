import {
  EditModule,
  FormatModule,
  FrozenColumnsModule,
  InteractionModule,
  KeybindingsModule,
  ResizeColumnsModule,
  SelectRangeModule,
  Tabulator,
} from 'tabulator-tables';

// The parts of the grid library that are used; the rest is not loaded.
Tabulator.registerModule([
  EditModule,
  FormatModule,
  FrozenColumnsModule,
  InteractionModule,
  KeybindingsModule,
  ResizeColumnsModule,
  SelectRangeModule,
]);

export { Tabulator };
export type { CellComponent, ColumnComponent } from 'tabulator-tables';
