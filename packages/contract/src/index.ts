export * from './things';
export * from './inputs';
export * from './sources';
export * from './source-inputs';
export * from './data';
export * from './changes';
