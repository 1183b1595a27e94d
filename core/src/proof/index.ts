export * from './checkForms';
export * from './deviation';
