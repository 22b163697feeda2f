import type { StageKind } from '../stage/contract.ts';
import { absorbance } from './absorbance.ts';
import { acPower } from './acPower.ts';
import { adc } from './adc.ts';
import { beatRate } from './beatRate.ts';
import { bridge } from './bridge.ts';
import { butterworthBandpass, butterworthBandstop } from './butterworthBand.ts';
import { butterworthHighpass, butterworthLowpass } from './butterworthPass.ts';
import { bySurroundings } from './bySurroundings.ts';
import { changeUnit } from './changeUnit.ts';
import { circularMean } from './circularMean.ts';
import { concentration } from './concentration.ts';
import { countsToLength } from './countsToLength.ts';
import { deadTime } from './deadTime.ts';
import { decimate } from './decimate.ts';
import { divider } from './divider.ts';
import { exponential } from './exponential.ts';
import { fir, firHighpass } from './fir.ts';
import { formula } from './formula.ts';
import { gainOffset } from './gainOffset.ts';
import { gateRate } from './gateRate.ts';
import { hampel } from './hampel.ts';
import { heading } from './heading.ts';
import { integrate } from './integrate.ts';
import { lessOthers } from './lessOthers.ts';
import { linear } from './linear.ts';
import { loadResistor } from './loadResistor.ts';
import { magnitude } from './magnitude.ts';
import { movingMean } from './movingMean.ts';
import { movingMedian } from './movingMedian.ts';
import { notch } from './notch.ts';
import { peakHold } from './peakHold.ts';
import { periodRate } from './periodRate.ts';
import { pickColumn } from './pickColumn.ts';
import { platinumRtd } from './platinumRtd.ts';
import { polynomial } from './polynomial.ts';
import { powerLaw } from './powerLaw.ts';
import { rateOfChange } from './rateOfChange.ts';
import { ratioToBaseline } from './ratioToBaseline.ts';
import { smoothingPolynomial } from './smoothingPolynomial.ts';
import { steinhartHart } from './steinhartHart.ts';
import { table } from './table.ts';
import { thermistorBeta } from './thermistorBeta.ts';
import { thermocouple } from './thermocouple.ts';
import { timeOfFlight } from './timeOfFlight.ts';
import { vectorCorrection } from './vectorCorrection.ts';
import { warmUp } from './warmUp.ts';
import { weightForce } from './weightForce.ts';

/** Every stage kind, in the order the Line page offers them. A new stage is one file and one line here. */
export const STAGES = [
  // from counts
  adc,
  bridge,
  absorbance,
  countsToLength,
  gateRate,
  periodRate,
  beatRate,
  timeOfFlight,
  // to physical quantities
  divider,
  loadResistor,
  thermistorBeta,
  steinhartHart,
  platinumRtd,
  thermocouple,
  ratioToBaseline,
  powerLaw,
  concentration,
  weightForce,
  acPower,
  heading,
  magnitude,
  // of any quantity
  gainOffset,
  lessOthers,
  bySurroundings,
  vectorCorrection,
  linear,
  polynomial,
  table,
  formula,
  changeUnit,
  pickColumn,
  warmUp,
  // filters
  exponential,
  movingMean,
  movingMedian,
  hampel,
  butterworthLowpass,
  butterworthHighpass,
  butterworthBandpass,
  butterworthBandstop,
  notch,
  fir,
  firHighpass,
  smoothingPolynomial,
  decimate,
  rateOfChange,
  integrate,
  peakHold,
  circularMean,
  deadTime,
] as unknown as readonly StageKind[];
