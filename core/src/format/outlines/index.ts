export { DASHES } from '../profile/dashes';
export * from './layOutPage';
export { OUTLINES, type OutlineFault, type OutlineForm, type OutlineResult, type Outlines } from './outlines';
export * from './readDxf';
export * from './readSvg';
