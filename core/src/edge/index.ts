export { fitParabola } from './fitCurve';
export * from './judgePicture';
export { lensBlurOf } from './lensBlur';
export * from './lightAcross';
export * from './locate';
export { locateInk } from './locateInk';
export { isShadowLike } from './shadowLike';
export * from './snapCircle';
