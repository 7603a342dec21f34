import type { SetCheck } from './set-check';

const LEAST_TAKES = 5;
const WORTH_SAYING_LU = 1.5;

/** Performers warm up and tire: a steady change over the order of recording, chains taken out. */
export const levelDrift: SetCheck = ({ takes }) => {
  const points = takes.flatMap(({ chain, loudnessLufs }, i) =>
    loudnessLufs === null ? [] : [{ chain, order: i, level: loudnessLufs }],
  );
  const own = new Map<string, { order: number; level: number; count: number }>();
  for (const { chain, order, level } of points) {
    const sum = own.get(chain) ?? { order: 0, level: 0, count: 0 };
    own.set(chain, {
      order: sum.order + order,
      level: sum.level + level,
      count: sum.count + 1,
    });
  }
  let [xx, xy, used] = [0, 0, 0];
  for (const { chain, order, level } of points) {
    const sum = own.get(chain);
    if (!sum || sum.count < 2) continue;
    const [x, y] = [order - sum.order / sum.count, level - sum.level / sum.count];
    xx += x * x;
    xy += x * y;
    used++;
  }
  if (used < LEAST_TAKES || xx === 0) return null;
  const overall = (xy / xx) * (points.length - 1);
  return Math.abs(overall) < WORTH_SAYING_LU
    ? null
    : `From the first take to the last the performance became ${Math.abs(overall).toFixed(1)} LU ${overall > 0 ? 'louder' : 'quieter'}; chains recorded early and late are not on equal terms.`;
};
