export * from './checkForms';
