export * from './joinedInput';
export * from './joinPictures';
export * from './numberedRuler';
