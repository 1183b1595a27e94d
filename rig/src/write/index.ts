export * from './writePicture';
