import type { Hookup } from '../model/gadget.ts';
import type { BoardPart, Part, SupplyPart } from '../model/part.ts';
import { printNominal } from '../units/index.ts';
import type { Rail } from './power.ts';

/** Amperes that a linear module draws for itself, and what small modules give. */
const OWN_A = 0.005;
const MODULE_A = 1.5;

/**
 * How a supply becomes a rail: straight where the voltages agree within 5 %, by the board's own linear regulator where the
 * supply suits it, else by a switching module up or down.
 * @param byHand the maker's choice of regulator, where there is one
 */
export function railFor(
  volts: number,
  supply: SupplyPart,
  board: BoardPart,
  byHand?: Hookup['regulators'][number]['kind'],
): Rail {
  const id = `${printNominal(volts)} V`;
  const straight = Math.abs(supply.volts - volts) <= 0.05 * volts;
  const boards =
    volts === board.logicV && supply.volts >= board.supplyLowV && supply.volts <= board.supplyHighV;
  const kind = byHand ?? (straight ? 'none' : boards ? 'linear' : 'switching');
  switch (kind) {
    case 'none':
      return { id, volts, limitA: supply.limitA, regulator: { kind } };
    case 'linear':
      return boards
        ? {
            id,
            volts,
            limitA: board.railA + board.peakA,
            // What it draws for itself is counted in the board's own current.
            regulator: { kind, dropoutV: board.supplyLowV - volts, ownA: 0 },
          }
        : { id, volts, limitA: 0.8, regulator: { kind, dropoutV: 1.2, ownA: OWN_A } };
    case 'switching':
      return {
        id,
        volts,
        limitA: MODULE_A,
        regulator: { kind, efficiency: supply.volts > volts ? 0.9 : 0.85, ownA: 0.001 },
      };
  }
}

/** The voltage a part is fed with: the board's own where it suits, else 5 V, else the supply's, else the nearest it takes. Null for a part without supply. */
export function railVolts(part: Part, board: BoardPart, supply: SupplyPart): number | null {
  if (part.kind === 'board') return part.logicV;
  if (part.supplyHighV === 0) return null;
  const takes = (v: number) => v >= part.supplyLowV - 1e-9 && v <= part.supplyHighV + 1e-9;
  for (const volts of [board.logicV, 5, supply.volts]) if (takes(volts)) return volts;
  return Math.min(Math.max(supply.volts, part.supplyLowV), part.supplyHighV);
}
