export type { World, Instrument } from './world.ts';
export { createWorld, type WorldTruth } from './createWorld.ts';
export { thermistorBank } from './thermistorBank.ts';
export { randomThermistorTruth, type ThermistorBankNominal } from './randomThermistorTruth.ts';
export { threeTermsFromBeta } from './threeTermsFromBeta.ts';
export { boardHeader, boardLine } from './boardText.ts';
