import { createKeybindingsHandler } from 'tinykeys';

/** Where keys are meant for what has them: fields, and lists that fold out. */
const TAKES_KEYS = 'input, textarea, select, [role="combobox"], [role="listbox"], [role="menu"]';

/** Whether what is pressed is meant for the place where it is pressed. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.closest(TAKES_KEYS) !== null || target.isContentEditable);

/** A handler of key presses, by combination as the library writes them; nothing happens where one types. */
export function shortcuts(actions: Readonly<Record<string, (event: KeyboardEvent) => void>>): (event: KeyboardEvent) => void {
  const bindings = Object.entries(actions).map(([keys, act]): [string, (event: KeyboardEvent) => void] => [
    keys,
    (event) => {
      event.preventDefault();
      act(event);
    },
  ]);
  const handler = createKeybindingsHandler(Object.fromEntries(bindings));
  return (event) => {
    if (!isTyping(event.target)) handler(event);
  };
}
