export * from './dashes';
export * from './flatProfile';
export * from './profileOf';
