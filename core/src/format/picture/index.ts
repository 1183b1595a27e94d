export * from './decodeHeic';
export * from './decodeTiff';
export * from './readFacts';
export * from './sniffPicture';
export * from './sniffResult';
