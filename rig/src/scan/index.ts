export * from './page';
export * from './scanPage';
