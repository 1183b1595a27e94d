export * from './sayFeature';
export * from './sayFinding';
export * from './sayFormula';
export * from './sayJobFile';
export * from './sayLength';
export * from './sayMaker';
export * from './sayMeasure';
export * from './sayPart';
