export * from './measurePicture';
export * from './requestSchema';
