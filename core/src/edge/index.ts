export { fitParabola } from './fitCurve';
export * from './judgePicture';
export * from './lightAcross';
export * from './locate';
export * from './snapCircle';
