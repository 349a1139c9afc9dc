/** ln Γ(x) for x > 0 by Lanczos' series (g = 7, nine terms), to about 15 digits. Worked example: ln Γ(5) = ln 24 = 3.178054. */
export function logGamma(x: number): number {
  const terms: readonly number[] = [
    0.999_999_999_999_809_93, 676.520_368_121_885_1, -1259.139_216_722_402_8, 771.323_428_777_653_13, -176.615_029_162_140_59,
    12.507_343_278_686_905, -0.138_571_095_265_720_12, 9.984_369_578_019_571_6e-6, 1.505_632_735_149_311_6e-7,
  ];
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x);
  const z = x - 1;
  const sum = terms.slice(1).reduce((s, term, n) => s + term / (z + n + 1), terms[0] ?? 0);
  const t = z + 7.5;
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum);
}

/** The continued fraction of the incomplete beta function, by Lentz's method. */
function betaFraction(x: number, a: number, b: number): number {
  const tiny = 1e-300;
  let c = 1;
  let d = 1 - ((a + b) * x) / (a + 1);
  d = 1 / (Math.abs(d) < tiny ? tiny : d);
  let result = d;
  for (let m = 1; m <= 500; m += 1) {
    for (const step of [
      (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m)),
      (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1)),
    ]) {
      d = 1 + step * d;
      d = 1 / (Math.abs(d) < tiny ? tiny : d);
      c = 1 + step / c;
      if (Math.abs(c) < tiny) c = tiny;
      result *= d * c;
    }
    if (Math.abs(d * c - 1) < 1e-15) break;
  }
  return result;
}

/**
 * The regularised incomplete beta function I_x(a, b) for 0 ≤ x ≤ 1, a, b > 0: the share of a beta distribution below x.
 * Source: the continued fraction 26.5.8 of Abramowitz and Stegun. Worked example: I_0.5(2, 2) = 0.5.
 */
export function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log(1 - x));
  return x < (a + 1) / (a + b + 2) ? (front * betaFraction(x, a, b)) / a : 1 - (front * betaFraction(1 - x, b, a)) / b;
}

/**
 * The value below which a share p of the F distribution with d1 and d2 degrees of freedom lies; 0 < p < 1, degrees above 0 and not
 * necessarily whole. By halving the interval of its beta distribution, to about 12 digits; anything else throws.
 * Worked example: p = 0.95 with 4 and 10 degrees: 3.478.
 */
export function fQuantile(p: number, d1: number, d2: number): number {
  if (!(p > 0 && p < 1 && d1 > 0 && d2 > 0)) throw new RangeError('A share between 0 and 1 and degrees of freedom above 0 are needed.');
  let [low, high] = [0, 1];
  for (let n = 0; n < 200 && high - low > 1e-16; n += 1) {
    const middle = (low + high) / 2;
    if (incompleteBeta(middle, d1 / 2, d2 / 2) < p) low = middle;
    else high = middle;
  }
  const x = (low + high) / 2;
  return (d2 * x) / (d1 * (1 - x));
}
