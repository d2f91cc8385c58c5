/** A pair as it was printed: what was said of it, and whether it is one person. */
export interface Said {
  probability: number;
  isSame: boolean;
}

export interface Figures {
  f1: number;
  precision: number;
  recall: number;
  /** Of the pairs given 0.95 and more, how many are right. */
  sure: number;
  /** How many of all true pairs are found before one in a hundred is wrong, the surest first. */
  recallAt99: number;
  /** Expected calibration error of the printed pairs, in ten bins. */
  calibration: number;
  bins: { pairs: number; said: number; same: number }[];
}

/** The figures of the printed pairs, beside how many true pairs there are. */
export function judge(printed: readonly Said[], truth: number): Figures {
  const bins = Array.from({ length: 10 }, () => ({ pairs: 0, said: 0, same: 0 }));
  const sorted = [...printed].sort((a, b) => b.probability - a.probability);
  let [right, wrong, sureRight, sure, met, same, recallAt99] = [0, 0, 0, 0, 0, 0, 0];
  for (const { probability, isSame } of sorted) {
    met++;
    if (isSame) same++;
    if (same / met >= 0.99) recallAt99 = same / truth;
    if (probability >= 0.5 && isSame) right++;
    else if (probability >= 0.5) wrong++;
    if (probability >= 0.95) {
      sure++;
      if (isSame) sureRight++;
    }
    const bin = bins[Math.min(9, Math.floor(probability * 10))];
    if (!bin) continue;
    bin.pairs++;
    bin.said += probability;
    if (isSame) bin.same++;
  }
  const [precision, recall] = [right / Math.max(1, right + wrong), right / truth];
  return {
    f1: (2 * precision * recall) / Math.max(1e-9, precision + recall),
    precision,
    recall,
    sure: sureRight / Math.max(1, sure),
    recallAt99,
    calibration: bins.reduce((sum, bin) => sum + Math.abs(bin.said - bin.same), 0) / Math.max(1, met),
    bins,
  };
}

export const inWords = ({ f1, precision, recall, sure, recallAt99, calibration }: Figures): string =>
  `F1 ${f1.toFixed(4)} (precision ${precision.toFixed(4)}, recall ${recall.toFixed(4)}); right of 0.95 and more ${sure.toFixed(4)}; recall at precision 0.99 ${recallAt99.toFixed(3)}; calibration error ${calibration.toFixed(4)}`;
