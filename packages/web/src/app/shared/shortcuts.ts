import { createKeybindingsHandler } from 'tinykeys';

const typing = (event: Event): boolean =>
  event.target instanceof HTMLElement &&
  (/^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName) || event.target.isContentEditable);

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
    if (!typing(event)) handler(event);
  };
}
