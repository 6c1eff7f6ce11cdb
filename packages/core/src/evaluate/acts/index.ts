export * from './arrange';
export * from './clip';
export * from './dimensions';
export * from './parameters';
export * from './symbols';
export * from './variants';
