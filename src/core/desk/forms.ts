import type { ControlForm, DisplayForm } from '@/core/shapes';
import type { DeskSignal } from './signals';

/** The forms that fit a signal, the usual one first. */
export function formsOf(signal: DeskSignal): readonly (ControlForm | DisplayForm)[] {
  if (signal.access === 'set') return [...controlForms(signal), ...displayForms(signal)];
  return displayForms(signal);
}

function controlForms({ type, labels, min, max }: DeskSignal): readonly ControlForm[] {
  if (type === 'BOOL') return ['switch', 'momentary'];
  if (labels) return ['choice'];
  return min === undefined || max === undefined ? ['number'] : ['slider', 'number'];
}

function displayForms({ type, labels }: DeskSignal): readonly DisplayForm[] {
  if (type === 'BOOL') return ['lamp', 'lane'];
  if (labels) return ['figure', 'lane', 'table'];
  return ['figure', 'lane', 'bar', 'dial', 'x-y', 'table'];
}

/** Whether people set something with it. */
export function isControl(form: ControlForm | DisplayForm): form is ControlForm {
  return form === 'slider' || form === 'number' || form === 'switch' || form === 'momentary' || form === 'choice';
}
