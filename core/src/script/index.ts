export * from './makeBody';
export * from './makeProfile';
export * from './measureJoined';
export * from './measurePicture';
export * from './parameters';
export * from './readRulers';
export * from './request';
export * from './requestSchema';
