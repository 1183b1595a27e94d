export * from './clingCircle';
export * from './judgePicture';
export * from './locate';
