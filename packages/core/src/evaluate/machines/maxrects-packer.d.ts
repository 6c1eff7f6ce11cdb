// The package says that all of its files are modules, but its entry isn't one: the file that is has no types of its own.
declare module 'maxrects-packer/dist/maxrects-packer.mjs' {
  export * from 'maxrects-packer';
}
