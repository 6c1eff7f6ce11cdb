// The package has these types but hides them from module resolution by its exports.
declare module 'tinykeys' {
  export function createKeybindingsHandler(bindings: Record<string, (event: KeyboardEvent) => void>): (event: Event) => void;
}
