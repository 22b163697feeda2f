import type { Channel } from '../../model/gadget.ts';
import { printNominal } from '../../units/index.ts';
import { busPlan } from '../busPlan.ts';
import { cautionsFor, type Caution } from '../cautions.ts';
import { boardOf, type GadgetPlan } from '../gadgetPlan.ts';
import { wiredParts } from '../pinNeeds.ts';
import { powerPlan } from '../powerPlan.ts';
import { amperes, seconds } from '../verdict.ts';
import { expectedRows, type ExpectedRow } from './expectedRows.ts';

export interface BringUpCheck {
  readonly id: string;
  readonly title: string;
  /** What to see, with its figure. */
  readonly expect: string;
  /** What it means when it is not seen. */
  readonly otherwise: string;
}

export interface ExpectedGroup {
  readonly channels: readonly Channel[];
  /** One list of rows for each channel: alike but for the names of their columns. */
  readonly rows: readonly (readonly ExpectedRow[])[];
}

export interface BringUpSheet {
  /** In order: the most dangerous checks first. */
  readonly checks: readonly BringUpCheck[];
  /** Channels that expect the same stand together. */
  readonly groups: readonly ExpectedGroup[];
  readonly cautions: readonly Caution[];
}

const v = (x: number) => `${printNominal(x, 3)} V`;
const hex = (address: number) => `0x${address.toString(16).padStart(2, '0')}`;

/** The order of checks at first power-up with what each should show, and what every channel should read at known conditions. */
export function bringUpSheet(plan: GadgetPlan): BringUpSheet {
  return {
    checks: [...beforePower(plan), ...railChecks(plan), ...busChecks(plan), ...warmUpChecks(plan)],
    groups: expectedGroups(plan),
    cautions: cautionsFor(plan.gadget, plan.parts),
  };
}

function expectedGroups(plan: GadgetPlan): ExpectedGroup[] {
  const groups = new Map<string, { channels: Channel[]; rows: ExpectedRow[][] }>();
  for (const s of plan.sensing)
    for (const channel of s.channels) {
      const rows = expectedRows(channel, s.ask, plan.gadget.place, s.part, plan.gadget.sampleRateHz);
      const alike = JSON.stringify([s.ask.id, rows.map((r) => ({ ...r, raw: r.raw.map((c) => c.value) }))]);
      const group = groups.get(alike) ?? { channels: [], rows: [] };
      group.channels.push(channel);
      group.rows.push(rows);
      groups.set(alike, group);
    }
  return [...groups.values()];
}

function beforePower(plan: GadgetPlan): BringUpCheck[] {
  const { supply } = plan;
  const polarised = wiredParts(plan).filter((w) => w.part.supplyHighV > 0);
  return [
    {
      id: 'short',
      title: 'No shorts (power off)',
      expect: 'More than 100 Ω between each rail and ground, and rising.',
      otherwise: 'A solder bridge, or a part connected backwards. Find it before you switch anything on.',
    },
    {
      id: 'polarity',
      title: 'Polarity',
      expect: `Positive to positive on ${polarised.length > 0 ? (polarised.length === 1 ? 'the powered part' : `all ${polarised.length} powered parts`) : 'the board'}${supply ? `, and ${v(supply.volts)} at the supply plug before you plug it in` : ''}.`,
      otherwise: 'A part connected backwards fails at once and often takes others with it.',
    },
    ...busPlan(plan).crossings.map((c, i) => ({
      id: `level-${i}`,
      title: `Voltage level: ${c.title}`,
      expect: c.sentence,
      otherwise:
        c.kind === 'harm' ? 'The input can be damaged within seconds.' : 'It may work only some of the time.',
    })),
  ];
}

function railChecks(plan: GadgetPlan): BringUpCheck[] {
  const power = powerPlan(plan);
  if (!power) return [];
  return [
    ...power.budget.rails.map(({ rail }) => ({
      id: `rail-${rail.id}`,
      title: `Rail ${rail.id}`,
      expect: `${v(rail.volts * 0.95)} to ${v(rail.volts * 1.05)} between the rail and ground.`,
      otherwise:
        'Too low: an overload or the wrong regulator. Too high: switch off at once, or the parts on this rail will be damaged.',
    })),
    {
      id: 'current',
      title: 'Total current',
      expect: `About ${amperes(power.budget.averageA)}, at most ${amperes(power.budget.peakA)}.`,
      otherwise:
        'Far too high: a short or a part connected backwards. Far too low: a part has no power. Off by a factor of 100 or more: mA mistaken for A.',
    },
  ];
}

function busChecks(plan: GadgetPlan): BringUpCheck[] {
  const bus = busPlan(plan);
  if (bus.devices.length === 0) return [];
  const board = boardOf(plan);
  return [
    {
      id: 'bus-rest',
      title: 'I2C bus, idle',
      expect: `Both lines at ${v(board.logicV)} (pull-ups: ${bus.pullUp.suggestedOhm === null ? 'see the I2C bus card' : `${printNominal(bus.pullUp.suggestedOhm / 1e3, 2)} kΩ`}).`,
      otherwise: 'A line that stays low is shorted, or a part is holding it low.',
    },
    {
      id: 'bus-scan',
      title: 'Addresses found',
      expect: `${bus.addresses.addresses.map((a) => `${hex(a.address)} ${a.title}`).join(', ')}; no others.`,
      otherwise:
        'An address is missing: check the power, swapped data and clock lines, or a different address setting. Two parts share an address: neither can be trusted.',
    },
  ];
}

function warmUpChecks(plan: GadgetPlan): BringUpCheck[] {
  const power = powerPlan(plan);
  if (!power || power.switchOn.readyS === 0 || !Number.isFinite(power.switchOn.readyS)) return [];
  return [
    {
      id: 'warm-up',
      title: 'Warm-up',
      expect: `Readings settle within ${seconds(power.switchOn.readyS)}; ignore earlier ones.`,
      otherwise:
        'Still drifting: a heater without power, or a sensor that was stored for a long time and needs about a day.',
    },
  ];
}
