/** What stands in the lanes of a plot, from the top: in each one or more signals, by name. */
export type Grouping = readonly (readonly string[])[];

/** Puts a signal into a lane of its own below the others; one that is there already stays where it is. */
export function withSignal(lanes: Grouping, name: string): Grouping {
  return lanes.some((lane) => lane.includes(name)) ? lanes : [...lanes, [name]];
}

/** Takes a signal out; a lane that is left empty goes. */
export function withoutSignal(lanes: Grouping, name: string): Grouping {
  return lanes.map((lane) => lane.filter((one) => one !== name)).filter((lane) => lane.length > 0);
}

/** Moves a signal into the lane of another. */
export function joined(lanes: Grouping, name: string, to: string): Grouping {
  const isThere = (one: string): boolean => lanes.some((lane) => lane.includes(one));
  if (name === to || !isThere(name) || !isThere(to)) return lanes;
  return withoutSignal(lanes, name).map((lane) => (lane.includes(to) ? [...lane, name] : lane));
}

/** Moves a signal out of the lane that it shares, into one of its own just below. */
export function parted(lanes: Grouping, name: string): Grouping {
  return lanes.flatMap((lane) => (lane.includes(name) && lane.length > 1 ? [lane.filter((one) => one !== name), [name]] : [lane]));
}
