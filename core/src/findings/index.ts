export * from './features';
export * from './finding';
export * from './flaws';
export * from './part';
export * from './picture';
