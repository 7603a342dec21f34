export const times = <T>(count: number, make: (i: number) => T): T[] =>
  Array.from({ length: count }, (_, i) => make(i));

export const each = (pairs: number) => (pairs === 1 ? 'the pair' : `each of ${pairs} pairs`);

export const listenersOf = (seats: number) => (seats === 1 ? 'one listener' : `${seats} listeners`);
