export * from '../sniff/sniffPicture';
export * from '../sniff/sniffResult';
export * from './decodeHeic';
export * from './decodeTiff';
export * from './readFacts';
