export * from './writeStl';
