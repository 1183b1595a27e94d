export * from './consistency/agreement';
export * from './consistency/curl';
export * from './consistency/deviations';
export * from './consistency/explanations';
export * from './datum/datum';
export * from './estimate/calibrate';
export * from './estimate/calibrationInput';
export * from './estimate/checkCamera';
export * from './estimate/estimate';
export * from './joint';
export * from './model/backProject';
export * from './model/camera';
export * from './model/page';
export * from './model/priors';
export * from './model/rigidTransform';
export * from './model/savedCamera';
export {
  axisFrom,
  nearRimAt,
  type OnTurned,
  roundedEndAt,
  silhouetteAt,
  type TurnedAxis,
} from './model/silhouette';
export { RULER, rulerWidthSigmaMm } from './reference/kinds';
export * from './reference/presets/presets';
export * from './reference/reference';
export * from './turned/turned';
export { distance, type Figure, figureOf, type Measure, type PlanePick } from './uncertainty/figure';
export * from './uncertainty/manyFigures';
export * from './uncertainty/plusMinusMap';
export * from './uncertainty/scaleTo';
