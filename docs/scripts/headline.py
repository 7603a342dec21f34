"""The headline test of pairs, from the answers alone: python3 headline.py answers.csv

For each part with pairs: net wins of every listener for every chain, less what the panel's common liking for the
recording that came first gives; block test on them in its F form (Iman & Davenport 1980). Python's own library only.
It reads complete panels, in which every listener judged every chain; of others it says so.
"""

import csv
import math
import sys


def incomplete_beta(x, a, b):
    """Regularised, by Lentz's continued fraction."""
    if x <= 0 or x >= 1:
        return float(x >= 1)
    if x > (a + 1) / (a + b + 2):
        return 1 - incomplete_beta(1 - x, b, a)
    front = math.exp(
        math.lgamma(a + b) - math.lgamma(a) - math.lgamma(b) + a * math.log(x) + b * math.log(1 - x)
    )
    tiny = 1e-300
    f, c, d = 1.0, 1.0, 0.0
    for i in range(1000):
        m = i // 2
        if i == 0:
            term = 1.0
        elif i % 2 == 0:
            term = m * (b - m) * x / ((a + 2 * m - 1) * (a + 2 * m))
        else:
            term = -(a + m) * (a + b + m) * x / ((a + 2 * m) * (a + 2 * m + 1))
        d = 1 / (1 + term * d or tiny)
        c = 1 + term / c or tiny
        f *= c * d
        if abs(1 - c * d) < 1e-14:
            break
    return front * (f - 1) / a


def f_tail(f, df1, df2):
    return incomplete_beta(df2 / (df2 + df1 * f), df2 / 2, df1 / 2)


def headline(rows):
    """p that no chain differs; None where fewer than three listeners had a preference, or the panel is not complete."""
    outcome = {"a": 1, "b": -1, "tie": 0}
    known = [row for row in rows if row["first"] in ("a", "b")]
    sign = {"a": 1, "b": -1, "": 0}
    liking = sum(sign[r["first"]] * outcome[r["response"]] for r in known) / len(known) if known else 0
    chains = sorted({r["chain"] for r in rows} | {r["chain_b"] for r in rows})
    net, met = {}, {}
    for r in rows:
        own = net.setdefault(r["listener"], dict.fromkeys(chains, 0.0))
        met.setdefault(r["listener"], set()).update((r["chain"], r["chain_b"]))
        won = outcome[r["response"]] - sign[r["first"]] * liking
        own[r["chain"]] += won
        own[r["chain_b"]] -= won
    k, blocks = len(chains), len(net)
    leaning = [own for own in net.values() if sum(x * x for x in own.values()) > 1e-9]
    if len(leaning) < 3 or any(len(seen) < k for seen in met.values()):
        return None
    sums = [sum(own[chain] for own in net.values()) for chain in chains]
    mean = sum(sums) / k
    within = sum((x - sum(own.values()) / k) ** 2 for own in net.values() for x in own.values())
    statistic = (k - 1) * sum((s - mean) ** 2 for s in sums) / within
    smallest = math.factorial(k) ** (1 - blocks)
    rest = blocks * (k - 1) - statistic
    if rest <= 1e-9:
        return smallest
    return max(smallest, f_tail((blocks - 1) * statistic / rest, k - 1, (blocks - 1) * (k - 1)))


def main(path):
    parts = {}
    with open(path, newline="", encoding="utf-8-sig") as file:
        for row in csv.DictReader(file):
            judged = not row.get("control") and row["response"] in ("a", "b", "tie")
            if row["task"] == "pair" and judged:
                parts.setdefault(row.get("part") or "1", []).append(row)
    for part, rows in sorted(parts.items()):
        p = headline(rows)
        listeners = len({row["listener"] for row in rows})
        said = "no test: too few listeners, or not everybody judged every chain" if p is None else f"p = {p:.6g}"
        print(f"part {part}: {len(rows)} answers of {listeners} listeners, {said}")


if __name__ == "__main__":
    main(sys.argv[1])
