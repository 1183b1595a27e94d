export * from './measurePicture';
export * from './request';
export * from './requestSchema';
