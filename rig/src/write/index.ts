export * from './tellTruth';
export * from './writePicture';
