export * from './variantTable';
