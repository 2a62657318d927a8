export { unitHosts } from './unitHost';
export { unpackedUnits } from './unpacked';
