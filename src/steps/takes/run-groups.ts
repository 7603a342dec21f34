import type { RunLine } from './run-sheet-store';

/** Lines of the sheet that are one time at the stand: all chains that hear it, or one chain. */
export function runGroups(lines: readonly RunLine[]): RunLine[][] {
  const groups: RunLine[][] = [];
  for (const line of lines) {
    const group = groups.at(-1);
    const before = group?.[0];
    const same =
      before?.day === line.day &&
      before.sourceId === line.sourceId &&
      before.programme === line.programme &&
      before.detail === line.detail &&
      before.takeNumber === line.takeNumber;
    if (group && same && before.atOnce && line.atOnce) group.push(line);
    else groups.push([line]);
  }
  return groups;
}

/** Whether everything of it is ticked off. */
export function isDone(group: readonly RunLine[]): boolean {
  return group.every(({ done }) => done);
}
