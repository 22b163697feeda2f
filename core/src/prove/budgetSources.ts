/** Sources of uncertainty that a channel's budget can name, by what code knows them by, with their titles. */
export const BUDGET_SOURCES = {
  constantsAndNoise: 'Calibration constants and noise',
  uncalibratedConstantsAndNoise: 'Uncalibrated constants and noise',
  constants: 'Calibration constants',
  uncalibratedConstants: 'Uncalibrated constants',
  fitError: 'Remaining fit error',
  sensorAccuracy: 'Sensor accuracy (datasheet)',
  afterCalibration: 'Nonlinearity, drift and hysteresis after calibration',
  hysteresis: 'Measured hysteresis',
  temperature: 'Temperature change since calibration',
  outsidePoints: 'Outside the calibrated range',
  lag: 'Lag behind the fastest change',
  peakLoss: 'Peak loss',
  amplitudeLoss: 'Amplitude loss',
  quantization: 'Quantization',
  noise: 'Reading noise',
} as const;
export type BudgetSource = keyof typeof BUDGET_SOURCES;
