// The parts of the grid library that are used; the rest is not loaded.
export {
  EditModule,
  FormatModule,
  FrozenColumnsModule,
  InteractionModule,
  KeybindingsModule,
  ResizeColumnsModule,
  SelectRangeModule,
  Tabulator,
} from 'tabulator-tables';
export type { CellComponent, ColumnComponent } from 'tabulator-tables';
