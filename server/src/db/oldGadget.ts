import { UNITS, type UnitId } from '@lucky-needle/core/units';

/** How a gadget lay in the first form of the database: one ask in the brief, one pick, board and display in the wiring. */
export interface OldGadget {
  readonly brief: OldBrief | null;
  readonly pick: { readonly partId: string; readonly reason: string } | null;
  readonly hookup: {
    readonly boardId: string;
    readonly displayId: string | null;
    readonly pins: readonly { readonly channelId: string; readonly pin: string }[];
  } | null;
  readonly channels: readonly { readonly id: string }[];
}

interface OldBrief {
  readonly quantity: string;
  readonly unit: UnitId;
  readonly low: number;
  readonly high: number;
  readonly tolerance: number;
  readonly fastest: unknown;
  readonly power: string;
  readonly surroundings: readonly string[];
  readonly budget: number | null;
  readonly note: string;
}

const ASK = 'a1';

/** The same gadget with a list of asks and of picks; nothing of it is lost. */
export function renewGadget({ brief, pick, hookup, channels }: OldGadget) {
  return {
    brief: brief && {
      asks: [
        {
          id: ASK,
          quantity: brief.quantity,
          unit: brief.unit,
          low: brief.low,
          high: brief.high,
          tolerance: brief.tolerance,
          fastest: brief.fastest,
          measurand: UNITS[brief.unit].dimension === 'temperature' ? 'temperature' : 'other',
          sensed: null,
        },
      ],
      power: brief.power,
      enduranceH: null,
      surroundings: brief.surroundings,
      budget: brief.budget,
      readyMade: null,
      note: brief.note,
    },
    picks: [
      ...(pick ? [{ slot: ASK, partId: pick.partId, converterId: null, reason: pick.reason }] : []),
      ...(hookup ? [{ slot: 'board', partId: hookup.boardId, converterId: null, reason: '' }] : []),
      ...(hookup?.displayId
        ? [{ slot: 'display', partId: hookup.displayId, converterId: null, reason: '' }]
        : []),
    ],
    hookup: hookup && {
      busClockHz: 100_000,
      busCapacitanceF: 1e-10,
      regulators: [],
      radioOn: true,
      duty: 1,
      extras: [],
      pins: hookup.pins.flatMap(({ channelId, pin }) => {
        const at = channels.findIndex((c) => c.id === channelId);
        return at < 0 ? [] : [{ needId: `${ASK}.${at + 1}.a1`, pin }];
      }),
    },
    channels: channels.map((c) => ({ ...c, askId: ASK })),
  };
}
