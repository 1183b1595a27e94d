export * from './viewLines';
