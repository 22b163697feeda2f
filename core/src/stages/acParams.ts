/** Parameters of the AC power stage. */
export interface AcParams {
  voltsPerUnit: number;
  voltageBias: number;
  amperesPerUnit: number;
  currentBias: number;
  currentDelayUs: number;
  cycles: number;
  deadBandV: number;
  [name: string]: number;
}
