/** Strengths nearer than that are the same. */
export const EQUAL = 1e-6;

/** Whether no other chain is at most as dear and at least as strong, one of the two strictly. */
export function onFrontier(listed: readonly { price: number; strength: number }[]): boolean[] {
  return listed.map((own) =>
    listed.every((other) => {
      if (other === own) return true;
      const gain = other.strength - own.strength;
      const better = gain > EQUAL;
      const asStrong = gain >= -EQUAL;
      const cheaper = other.price < own.price;
      return !(other.price <= own.price && asStrong && (better || cheaper));
    }),
  );
}
