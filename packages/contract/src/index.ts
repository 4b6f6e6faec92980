export * from './things';
export * from './inputs';
