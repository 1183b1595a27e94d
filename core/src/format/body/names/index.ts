export * from './variantJobs';
