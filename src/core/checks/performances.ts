/** What tells which performance a take is of, the surest first. */
export type PerformanceGround = 'given' | 'sound' | 'time' | 'name' | 'order';

/** A take of one source, in what tells with which others it was played. */
export interface PlayedTake {
  id: string;
  chainId: string;
  /** What somebody said. */
  given: number | null;
  /** A take whose sound is unmistakably of the same performance. */
  soundsLike: string | null;
  /** When it was recorded by what its file says: first and last second on one clock. */
  span: readonly [number, number] | null;
  /** Number of the take in its file's name. */
  inName: number | null;
}

export interface Performance {
  /** Counts from 1, as they were played. */
  number: number;
  ground: PerformanceGround;
  /** The take of the same chain that it was rendered from elsewhere: it holds the same waveform. */
  renderedFrom: string | null;
}

/** Of the shorter of two takes, so much lies within the other when both are of one time. */
const OVERLAP = 0.5;

function overlap([a, b]: readonly [number, number], [c, d]: readonly [number, number]): boolean {
  return Math.min(b, d) - Math.max(a, c) > OVERLAP * Math.max(0, Math.min(b - a, d - c));
}

interface Group {
  takes: PlayedTake[];
  given: number | null;
}

/**
 * Which takes were played at one time. What somebody gave counts first; then unmistakable sound, times that overlap,
 * the number in the name, and for what is left the order within the chain. A chain records a performance once, so
 * two takes of one chain are never put together unless somebody said so; what unmistakably sounds like a take of its
 * own chain, though nobody plays the same twice, was rendered from it elsewhere and is of its performance.
 * @param takes of one source, in the order in which they were recorded or came
 * @param replayed whether the source plays the same again, from a loudspeaker: then two takes may sound alike
 * @returns by take; numbers that were given are kept, the others are counted around them
 */
export function performancesOf(
  takes: readonly PlayedTake[],
  replayed = false,
): Map<string, Performance> {
  const groupOf = new Map<PlayedTake, Group>(
    takes.map((take) => [take, { takes: [take], given: take.given }]),
  );
  const grounds = new Map<PlayedTake, PerformanceGround>();
  const rendered = new Map<PlayedTake, string>();
  const groups = () => [...new Set(groupOf.values())];
  const join = (a: Group, b: Group, ground: PerformanceGround) => {
    if (a === b) return;
    for (const take of [...a.takes, ...b.takes]) {
      if (!grounds.has(take)) grounds.set(take, take.given === null ? ground : 'given');
    }
    a.given ??= b.given;
    a.takes.push(...b.takes);
    for (const take of b.takes) groupOf.set(take, a);
  };
  const mayJoin = (a: Group, b: Group) =>
    (a.given === null || b.given === null || a.given === b.given) &&
    !a.takes.some(({ chainId }) => b.takes.some((other) => other.chainId === chainId));
  const pair = (a: PlayedTake, b: PlayedTake, ground: PerformanceGround) => {
    const [one, other] = [groupOf.get(a)!, groupOf.get(b)!];
    if (ground === 'given' || mayJoin(one, other)) join(one, other, ground);
  };
  /** Puts together what has the same number. */
  const alike = (ground: PerformanceGround, of: (take: PlayedTake) => number | null) => {
    const same = new Map<number, PlayedTake[]>();
    for (const take of takes) {
      const number = of(take);
      if (number === null) continue;
      for (const other of same.get(number) ?? []) pair(other, take, ground);
      same.set(number, [...(same.get(number) ?? []), take]);
    }
  };
  alike('given', ({ given }) => given);
  const byId = new Map(takes.map((take) => [take.id, take]));
  for (const take of takes) {
    const like = take.soundsLike === null ? undefined : byId.get(take.soundsLike);
    if (!like) continue;
    pair(like, take, 'sound');
    const [own, at] = [groupOf.get(take)!, groupOf.get(like)!];
    const original = at.takes.find(
      (one) => one.chainId === take.chainId && (one === like || one.soundsLike === like.id),
    );
    const said = own.given !== null;
    if (own === at || !original || replayed || said || own.takes.length > 1) continue;
    rendered.set(take, original.id);
    join(at, own, 'sound');
  }
  const timed = takes
    .flatMap((take) => (take.span ? [{ take, span: take.span }] : []))
    .sort((a, b) => a.span[0] - b.span[0]);
  for (const [i, a] of timed.entries()) {
    for (const b of timed.slice(i + 1)) {
      if (b.span[0] >= a.span[1]) break;
      if (overlap(a.span, b.span)) pair(a.take, b.take, 'time');
    }
  }
  alike('name', ({ inName }) => inName);
  // Whatever nothing speaks of: the n-th of its chain to the n-th of another.
  const counts = new Map<string, number>();
  const place = new Map(
    takes.map((take) => {
      const before = counts.get(take.chainId) ?? 0;
      counts.set(take.chainId, before + 1);
      return [take, before];
    }),
  );
  // A take that is with others already is joined only by those that are alone.
  const alone = new Map<number, PlayedTake[]>();
  for (const take of takes) {
    if (groupOf.get(take)!.takes.length > 1) continue;
    alone.set(place.get(take)!, [...(alone.get(place.get(take)!) ?? []), take]);
  }
  for (const first of takes) {
    for (const take of alone.get(place.get(first)!) ?? []) {
      if (take !== first) pair(first, take, 'order');
    }
  }
  const taken = new Set(groups().flatMap(({ given }) => given ?? []));
  let next = 1;
  const numberOf = new Map<Group, number>();
  for (const take of takes) {
    const group = groupOf.get(take)!;
    if (numberOf.has(group)) continue;
    while (taken.has(next)) next += 1;
    numberOf.set(group, group.given ?? next);
    if (group.given === null) next += 1;
  }
  return new Map(
    takes.map((take) => [
      take.id,
      {
        number: numberOf.get(groupOf.get(take)!)!,
        ground: take.given !== null ? 'given' : (grounds.get(take) ?? 'order'),
        renderedFrom: rendered.get(take) ?? null,
      },
    ]),
  );
}
