export * from './forMachine';
export * from './variantJobs';
