import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Select } from 'primeng/select';

/** One that can be chosen. */
export interface Pickable<T extends string = string> {
  readonly value: T;
  readonly label: string;
}

/** The values themselves, each under its own name. */
export const pickables = <T extends string>(values: readonly T[]): readonly Pickable<T>[] =>
  values.map((value) => ({ value, label: value }));

/** What one chooses from, where each has an id and a name. */
export const pickByName = (parts: readonly { readonly id: string; readonly name: string }[]): readonly Pickable[] =>
  parts.map(({ id, name }) => ({ value: id, label: name }));

/** One of a list that folds out. Without a value it says its placeholder. */
@Component({
  selector: 'twin-pick',
  imports: [FormsModule, Select],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-select
      [options]="$any(options())"
      optionLabel="label"
      optionValue="value"
      [ngModel]="value()"
      (onChange)="chosen.emit($event.value)"
      [ariaLabel]="label()"
      [disabled]="fixed()"
      [placeholder]="placeholder()"
      appendTo="body"
      scrollHeight="320px"
      size="small"
      [fluid]="true"
      [class.plain]="plain()"
    />
  `,
  styles: `
    :host { display: block; min-width: 0; }
    p-select { background: var(--raised); }
    .plain { border-color: transparent; background: none; }
    .plain:hover, .plain.p-focus { border-color: var(--hairline); background: var(--sheet); }
  `,
})
export class Pick<T extends string> {
  readonly label = input.required<string>();
  readonly options = input.required<readonly Pickable<T>[]>();
  readonly value = input<string | null | undefined>('');
  readonly fixed = input(false);
  readonly placeholder = input('');
  /** Without a frame until it is pointed at. */
  readonly plain = input(false);
  readonly chosen = output<T>();
}
