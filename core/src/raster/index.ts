export * from './applyTones';
export * from './gradient';
export * from './patch';
export * from './pyramid';
export * from './redraw';
export * from './turnUpright';
