export { lineCentre } from './centre';
export * from './countGraduations';
export * from './family';
export * from './findAll';
export * from './findDisc';
export * from './findGrid';
export * from './findGridAnywhere';
export * from './findRuler';
export * from './findSheet';
