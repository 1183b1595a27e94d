export * from './adviseJoined';
export * from './adviseNext';
export * from './calibrator';
export type { Trued } from './settlePicture';
