import { timeFinding, timeManyPlaces, timeNativeWarp } from './rows/finding';
import { timeRaster } from './rows/times';
console.log(timeManyPlaces(), timeNativeWarp(), timeRaster(), await timeFinding());
