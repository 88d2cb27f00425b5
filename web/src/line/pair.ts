/**
 * One key for two: of an iteration its team's and its own, of a need both items'. Keys may
 * hold anything that can be typed in a line, spaces and slashes too.
 */
export const pair = (a: string | undefined, b: string | undefined): string => `${a ?? ''}\n${b ?? ''}`
