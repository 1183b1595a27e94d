export * from './sniffPicture';
export * from './sniffResult';
