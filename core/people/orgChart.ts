export interface Line {
  /** Who reports. */
  from: string;
  /** To whom. */
  to: string;
}

export interface OrgChart {
  /** Lines that can be drawn downwards, without a loop among them. */
  lines: Line[];
  /** Lines that would close a loop; they are told beside the chart and not drawn. */
  loops: Line[];
  /** Who reports to nobody and has somebody reporting. */
  heads: string[];
}

/**
 * Makes what can be drawn of who reports to whom. Lines are taken in the order given, and one that would close a loop,
 * of whatever length, is set aside; so the result never has a loop, and is the same for the same order.
 */
export function orgChart(given: readonly Line[]): OrgChart {
  const above = new Map<string, string[]>();
  const lines: Line[] = [];
  const loops: Line[] = [];
  const leadsTo = (from: string, to: string): boolean => {
    const seen = new Set<string>();
    const waiting = [from];
    for (let one = waiting.pop(); one !== undefined; one = waiting.pop()) {
      if (one === to) return true;
      if (seen.has(one)) continue;
      seen.add(one);
      waiting.push(...(above.get(one) ?? []));
    }
    return false;
  };
  for (const line of given) {
    if (leadsTo(line.to, line.from)) {
      loops.push(line);
      continue;
    }
    above.set(line.from, [...(above.get(line.from) ?? []), line.to]);
    lines.push(line);
  }
  const reporting = new Set(lines.map((line) => line.from));
  return {
    lines,
    loops,
    heads: [...new Set(lines.map((line) => line.to))].filter((id) => !reporting.has(id)),
  };
}
