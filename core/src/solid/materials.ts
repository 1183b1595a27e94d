/**
 * Densities at room temperature, g/cm³: middle of the range that handbooks give for common grades (Ashby, Materials Selection
 * in Mechanical Design, 4th ed., appendix A; woods at 12 % moisture: USDA Wood Handbook, FPL-GTR-282, table 5-3). A batch strays
 * by a few percent, wood by ten and more.
 */
export const MATERIALS: readonly { name: string; density: number }[] = [
  { name: 'Steel', density: 7.85 },
  { name: 'Stainless steel', density: 7.9 },
  { name: 'Aluminium', density: 2.7 },
  { name: 'Brass', density: 8.5 },
  { name: 'Copper', density: 8.93 },
  { name: 'PLA', density: 1.24 },
  { name: 'PETG', density: 1.27 },
  { name: 'ABS', density: 1.05 },
  { name: 'Nylon', density: 1.14 },
  { name: 'Acetal', density: 1.41 },
  { name: 'Acrylic', density: 1.18 },
  { name: 'Rubber', density: 1.2 },
  { name: 'Leather', density: 0.9 },
  { name: 'Birch plywood', density: 0.68 },
  { name: 'Beech', density: 0.71 },
  { name: 'Oak', density: 0.7 },
  { name: 'Pine', density: 0.5 },
];
