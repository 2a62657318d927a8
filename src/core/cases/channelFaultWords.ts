import type { RawChannelFault } from '@/core/shapes';

const busWords = {
  sound: 'the bus is sound again',
  frozen: 'the bus is frozen',
  lost: 'the connection is lost',
  'power cycle': 'the controller is switched off and on',
} as const;

/** A fault of the bench in a sentence. @param unit of the channel */
export function channelFaultWords(fault: RawChannelFault, unit = ''): string {
  if ('bus' in fault) return busWords[fault.bus];
  return `${fault.channel} ${whatWords(fault, unit === '' ? '' : ` ${unit}`)}`;
}

function whatWords(fault: Exclude<RawChannelFault, { bus: unknown }>, unit: string): string {
  if ('stuck' in fault) return `is stuck at ${typeof fault.stuck === 'boolean' ? String(fault.stuck).toUpperCase() : `${fault.stuck}${unit}`}`;
  if ('offset' in fault) return `reads ${Math.abs(fault.offset)}${unit} too ${fault.offset < 0 ? 'low' : 'high'}`;
  if ('gain' in fault) return `reads ${fault.gain} times its value`;
  if ('noise' in fault) return `has noise with a deviation of ${fault.noise}${unit}`;
  if ('spike' in fault) return `has a spike of ${fault.spike}${unit}`;
  if ('late' in fault) return `is ${fault.late} ${fault.late === 1 ? 'cycle' : 'cycles'} late`;
  if ('swapped' in fault) return `has changed places with ${fault.swapped}`;
  if ('dropped' in fault) return 'has dropped out';
  return 'broken' in fault ? 'has a broken wire' : 'is sound again';
}
