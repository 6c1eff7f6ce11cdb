export * from './arcs';
export * from './deviation';
export * from './fit-arcs';
export * from './flatten';
export * from './matrix';
export * from './measure';
export * from './outline';
export * from './point';
