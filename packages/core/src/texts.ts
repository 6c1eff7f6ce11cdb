// Texts with all that can be done to them: loaded by those who look at one.
export * from './document/texts/schema';
export * from './document/texts/words';
export * from './evaluate/texts/commands';
export { alignBlocks } from './content/prose/align';
export { isItem, numbersOf } from './evaluate/texts/lists';
export type { ProseBlock, ProseBody, ProseSpan } from './content/prose/prose';
export { type WordChange, wordDiff } from './content/prose/word-diff';
export { countWords, textOf, wordsOfBlock } from './content/prose/words';
