export * from './clingCircle';
export { fitParabola } from './fitCurve';
export * from './judgePicture';
export * from './locate';
