import { CholeskyDecomposition, Matrix } from 'ml-matrix';

export interface Logistic {
  weights: number[];
  intercept: number;
}

const sigmoid = (z: number): number => (z >= 0 ? 1 / (1 + Math.exp(-z)) : Math.exp(z) / (1 + Math.exp(z)));

/** The chance a model gives to a row of features. */
export const predict = (model: Logistic, row: readonly number[]): number =>
  sigmoid(model.weights.reduce((sum, weight, at) => sum + weight * (row[at] ?? 0), model.intercept));

/** The sum that is made least: half the squared weights, and c times the log loss; the intercept is not held down. */
function loss(
  model: Logistic,
  rows: readonly (readonly number[])[],
  outcomes: readonly number[],
  c: number,
): number {
  let sum = 0;
  rows.forEach((row, at) => {
    const z = model.weights.reduce(
      (total, weight, index) => total + weight * (row[index] ?? 0),
      model.intercept,
    );
    // log(1 + e^z) − y·z without overflow
    sum += Math.max(z, 0) + Math.log1p(Math.exp(-Math.abs(z))) - (outcomes[at] ?? 0) * z;
  });
  return 0.5 * model.weights.reduce((total, weight) => total + weight * weight, 0) + c * sum;
}

const TOLERANCE = 1e-10;
const MOST_STEPS = 200;

/**
 * Logistic regression with an L2 penalty on the weights, by Newton's method with step halving. The objective is that of
 * scikit-learn's LogisticRegression: ½‖w‖² + C · Σ log loss.
 * Source: Hastie, Tibshirani & Friedman, The Elements of Statistical Learning, 4.4.1 (iteratively reweighted least squares).
 * @param rows features, one row an observation
 * @param outcomes 1 or 0 for each row
 * @param c the inverse of how strongly weights are held down
 * @throws when rows and outcomes do not match, or there are none
 */
export function trainLogistic(
  rows: readonly (readonly number[])[],
  outcomes: readonly number[],
  c = 1,
): Logistic {
  const width = rows[0]?.length ?? 0;
  if (!rows.length || rows.length !== outcomes.length) throw new Error('each row needs its outcome');
  let model: Logistic = { weights: new Array<number>(width).fill(0), intercept: 0 };
  let before = loss(model, rows, outcomes, c);
  for (let step = 0; step < MOST_STEPS; step++) {
    const gradient = new Array<number>(width + 1).fill(0);
    const curvature = Matrix.zeros(width + 1, width + 1);
    rows.forEach((row, at) => {
      const chance = predict(model, row);
      const off = c * (chance - (outcomes[at] ?? 0));
      const spread = c * Math.max(chance * (1 - chance), 1e-12);
      for (let i = 0; i <= width; i++) {
        const x = i < width ? (row[i] ?? 0) : 1;
        gradient[i] = (gradient[i] ?? 0) + off * x;
        for (let j = 0; j <= i; j++) {
          const y = j < width ? (row[j] ?? 0) : 1;
          curvature.set(i, j, curvature.get(i, j) + spread * x * y);
        }
      }
    });
    for (let i = 0; i <= width; i++) {
      if (i < width) {
        gradient[i] = (gradient[i] ?? 0) + (model.weights[i] ?? 0);
        curvature.set(i, i, curvature.get(i, i) + 1);
      }
      for (let j = 0; j < i; j++) curvature.set(j, i, curvature.get(i, j));
    }
    const move = new CholeskyDecomposition(curvature).solve(Matrix.columnVector(gradient)).to1DArray();
    const along = (share: number): Logistic => ({
      weights: model.weights.map((weight, at) => weight - share * (move[at] ?? 0)),
      intercept: model.intercept - share * (move[width] ?? 0),
    });
    let share = 1;
    while (share > 1e-8 && loss(along(share), rows, outcomes, c) > before) share /= 2;
    const next = along(share);
    const after = loss(next, rows, outcomes, c);
    model = next;
    if (Math.max(...move.map(Math.abs)) < TOLERANCE || before - after < 1e-14) return model;
    before = after;
  }
  return model;
}
