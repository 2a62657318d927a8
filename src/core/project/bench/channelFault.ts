import { heldFault, type Wiring } from '@/core/bench';
import { nameKey, nearestName } from '@/core/language';
import type { RawChannelFault } from '@/core/shapes';

/** Why a bench cannot have a fault; nothing where it can. @param isOwn its controller has a program of its own */
export function channelFaultOf(
  fault: RawChannelFault,
  wiring: Wiring,
  isOwn: boolean,
): { readonly message: string; readonly fix: string } | undefined {
  if ('bus' in fault) {
    const isOutOfReach = isOwn && fault.bus === 'power cycle';
    return isOutOfReach
      ? { message: 'A controller with a program of its own cannot be switched off over the bus.', fix: 'Choose another fault.' }
      : undefined;
  }
  const lane = [wiring.inputs, wiring.outputs].find((pins) => pins.some((pin) => nameKey(pin.name) === nameKey(fault.channel)));
  const channel = lane?.find((pin) => nameKey(pin.name) === nameKey(fault.channel));
  if (!lane || !channel) {
    const known = [...wiring.inputs, ...wiring.outputs].map((pin) => pin.name);
    const near = nearestName(fault.channel, known);
    return {
      message: `The bench has no channel "${fault.channel}".`,
      fix: near ? `Did you mean "${near}"?` : `It has: ${known.slice(0, 12).join(', ')}${known.length > 12 ? ', …' : ''}.`,
    };
  }
  try {
    heldFault(fault, channel, lane);
    return undefined;
  } catch (problem) {
    const message = problem instanceof Error ? problem.message : String(problem);
    return { message: `${message.charAt(0).toUpperCase()}${message.slice(1)}.`, fix: 'Choose another fault, value or channel.' };
  }
}
