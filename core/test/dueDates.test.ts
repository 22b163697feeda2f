import { describe, expect, it } from 'vitest';
import type { Calibration } from '../src/model/calibration.ts';
import { calibrationDue } from '../src/calibrate/index.ts';
import { dueDates } from '../src/plan/index.ts';
import { familyGadget } from './support/familyGadget.ts';

const calibration = (channelId: string, number: number, change: Partial<Calibration> = {}) =>
  ({
    id: `${channelId}-${number}`,
    channelId,
    number,
    state: 'in use',
    result: { title: 'Gain and offset' },
    createdAt: '2026-01-31T10:00:00Z',
    usedAt: '2026-03-01T10:00:00Z',
    ...change,
  }) as Calibration;
const kiln = { ...familyGadget(14), name: 'Kiln' };
const vane = { ...familyGadget(12), name: 'Vane' };
const thermometer = {
  id: 't',
  version: 1,
  title: 'Glass thermometer',
  value: 20,
  unit: 'degC' as const,
  uncertainty: 0.2,
  checkedOn: '2025-11-30',
  goodForMonths: 3,
  note: '',
  createdAt: '',
};

describe('what is to be checked again', () => {
  it('are references and calibrations in use, the soonest first, overdue from their day on', () => {
    const items = dueDates(
      [
        {
          gadget: kiln,
          calibrations: [
            calibration('p1', 1, { state: 'replaced' }),
            calibration('p1', 2, { goodForMonths: 1 }),
            calibration('p2', 1, { state: 'draft' }),
          ],
        },
        { gadget: vane, calibrations: [calibration('vane', 1)] },
      ],
      [thermometer],
      '2026-02-28',
    );
    expect(items.map(({ kind, title, dueOn, overdue }) => [kind, title, dueOn, overdue])).toEqual([
      ['reference', 'Glass thermometer', '2026-02-28', true],
      ['calibration', `Kiln: ${kiln.channels[0]!.name}`, '2026-02-28', true],
      ['calibration', 'Vane', '2027-01-31', false],
    ]);
    expect(items[1]).toMatchObject({ gadgetId: kiln.id, channelId: 'p1', id: 'p1-2' });
  });

  it('count from the day on which a calibration was made, also where it was put back in use since', () => {
    expect(calibrationDue(calibration('p1', 1, { goodForMonths: 6 }), '2026-07-30')).toEqual({
      dueOn: '2026-07-31',
      overdue: false,
    });
  });

  it('are none of a channel that is gone', () => {
    expect(dueDates([{ gadget: vane, calibrations: [calibration('other', 1)] }], [], '2030-01-01')).toEqual(
      [],
    );
  });
});
