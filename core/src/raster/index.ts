export * from './applyTones';
export * from './clearBackground';
export * from './gradient';
export * from './markDifference';
export * from './patch';
export * from './pyramid';
export * from './redraw';
export * from './turnUpright';
