export * from './joinedInput';
export * from './joinPictures';
