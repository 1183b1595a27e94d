export * from './readFacts';
export * from './sniffPicture';
