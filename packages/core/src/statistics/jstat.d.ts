// The parts of jstat that are used; the package ships no types.
declare module "jstat" {
  interface Continuous {
    pdf(x: number, ...parameters: number[]): number;
    cdf(x: number, ...parameters: number[]): number;
    inv(p: number, ...parameters: number[]): number;
  }
  export const jStat: {
    normal: Continuous;
    beta: Continuous;
    chisquare: Continuous;
    studentt: Continuous;
    noncentralt: { cdf(x: number, df: number, ncp: number): number };
    gammaln(x: number): number;
    lowRegGamma(a: number, x: number): number;
  };
  const whole: { jStat: typeof jStat };
  export default whole;
}
