import { Value } from 'typebox/value';
import { describe, expect, it } from 'vitest';
import { PART_KINDS, PART_SCHEMAS, type Part } from '../../src/model/index.ts';
import {
  blankPart,
  findPart,
  listCost,
  partFaults,
  partFromCells,
  partsFromCsv,
  partsFromJson,
  partsList,
  partsListCsv,
  partsOf,
  partsToCsv,
  partsToJson,
  partToCells,
  SHELF,
  shelfWith,
} from '../../src/plan/index.ts';
import { partLike, planFrom } from '../support/plans.ts';

describe('the shelf', () => {
  it('has at least 70 parts, every kind among them, each by its schema and rules, each id once', () => {
    expect(SHELF.length).toBeGreaterThanOrEqual(70);
    for (const kind of PART_KINDS) expect(partsOf(SHELF, kind).length).toBeGreaterThan(2);
    for (const part of SHELF) {
      expect([part.id, [...Value.Errors(PART_SCHEMAS[part.kind], part)]]).toEqual([part.id, []]);
      expect([part.id, partFaults(part)]).toEqual([part.id, []]);
      expect(part.price).toBeGreaterThan(0);
    }
    expect(new Set(SHELF.map((q) => q.id)).size).toBe(SHELF.length);
  });

  it('puts a part of the maker’s own before the others, in the place of one of the same id', () => {
    const own = partLike('board', 'small-8-bit', { title: 'My board' });
    const both = shelfWith([own]);
    expect(both.length).toBe(SHELF.length);
    expect(findPart(both, 'board', 'small-8-bit')!.title).toBe('My board');
    expect(findPart(both, 'sensor', 'small-8-bit')).toBeNull();
    expect(findPart(both, 'board', null)).toBeNull();
  });
});

describe('partFaults', () => {
  it.each<[Part, string, RegExp]>([
    [
      partLike('sensor', 'ntc-bead-10k', { supplyLowV: 6, supplyHighV: 5 }),
      'supplyHighV',
      /must not be below/,
    ],
    [partLike('sensor', 'ntc-bead-10k', { onA: 0.1, peakA: 0.05 }), 'peakA', /peak current \(0.05 A\)/],
    [partLike('sensor', 'axes-16g', { addresses: [] }), 'addresses', /needs an address, such as 0x3C/],
    [
      partLike('sensor', 'axes-16g', { bears: ['sun'], fails: ['sun'] }),
      'fails',
      /cannot be both suitable and not suitable for sunlight/,
    ],
    [partLike('sensor', 'ntc-bead-10k', { low: 10, high: 10 }), 'high', /must be above the lowest/],
    [partLike('sensor', 'one-wire-digital', { step: 0 }), 'step', /smallest step above 0; received 0/],
    [partLike('sensor', 'ntc-bead-10k', { betaK: 0 }), 'r0Ohm', /R0, beta and a series resistor/],
    [partLike('sensor', 'heated-ferment', { exponent: 0 }), 'r0Ohm', /exponent other than 0/],
    [partLike('sensor', 'silicon-analog', { fullV: 1, zeroV: 1 }), 'fullV', /both are 1 V/],
    [partLike('sensor', 'photodiode-amplifier', { zeroV: 0 }), 'zeroV', /with the blank, above 0/],
  ])('%#: names what cannot be in %o', (part, field, message) => {
    const fault = partFaults(part).find((f) => f.field === field)!;
    expect(fault.message).toMatch(message);
  });
});

describe('a file of parts', () => {
  it('comes back as it went, as CSV and as JSON, whatever the kind', () => {
    expect(partsFromCsv(partsToCsv(SHELF))).toEqual({ parts: SHELF, issues: [] });
    expect(partsFromJson(partsToJson(SHELF))).toEqual({ parts: SHELF, issues: [] });
  });

  it('keeps the good rows and reports each bad one with its row, field, rule and value', () => {
    const csv = [
      'kind,id,title,price,measurand,unit,low,high,signal,step,rateHz',
      'sensor,my-probe,"Probe, mine","3,50",temperature,degC,-10,120,number,0.1,5',
      'sensor,upside-down,Bad,3,temperature,degC,50,10,number,0.1,5',
      'sensor,no-price,Bad,cheap,temperature,degC,0,10,number,0.1,5',
      'gizmo,x,X,3,temperature,degC,0,10,number,0.1,5',
      'sensor,luck,Bad,1,luck,degC,0,10,number,0.1,5',
      'sensor,my-probe,Twice,1,temperature,degC,0,10,number,0.1,5',
      'sensor,sp ace,Bad,-1,temperature,degC,0,10,number,0.1,5',
      'supply,my-pack,Pack,8,,,,,,,',
    ].join('\n');
    const { parts, issues } = partsFromCsv(csv);
    expect(parts.map((q) => [q.id, q.title, q.price])).toEqual([
      ['my-probe', 'Probe, mine', 3.5],
      ['my-pack', 'Pack', 8],
    ]);
    expect(issues.map((i) => [i.row, i.code, i.field])).toEqual([
      [2, 'rule', 'high'],
      [3, 'bad-field', 'price'],
      [4, 'unknown-kind', 'kind'],
      [5, 'bad-field', 'measurand'],
      [6, 'twice', 'id'],
      [7, 'bad-field', 'id'],
      [7, 'bad-field', 'price'],
    ]);
    expect(issues[1]!.message).toBe('price must be a number; received "cheap".');
    expect(issues[2]!.message).toMatch(/Unknown kind "gizmo"\. Choose one of sensor, converter/);
    expect(issues[6]!.message).toBe('price must be 0 or more; received -1.');
  });

  it('fills what is left out with the plain values of the kind, peaks with the current while on', () => {
    const { parts } = partsFromJson('[{"kind":"sounder","id":"bell","title":"Bell","onA":0.3}]');
    expect(parts[0]).toEqual({
      ...blankPart('sounder'),
      id: 'bell',
      title: 'Bell',
      onA: 0.3,
      peakA: 0.3,
      warmUpA: 0.3,
    });
  });

  it.each([
    ['{', /This is not valid JSON/],
    ['{"things":[]}', /a list under "parts"/],
    ['[3]', /object with fields/],
    ['[{"kind":"sounder","id":"x","title":"x","volume":3}]', /no field "volume"\. Its fields are/],
    ['[{"kind":"sounder","id":"x","title":""}]', /title must not be empty/],
    ['[{"kind":"display","id":"x","title":"x","rows":1.5}]', /rows must be a whole number; received 1.5/],
    ['[{"kind":"board","id":"x","title":"x","pins":["A0 analog"]}]', /such as "A4: analog/],
    ['[{"kind":"supply","id":"x","title":"x","volts":0}]', /volts must be above 0; received 0/],
    ['[{"kind":"supply","id":"x","title":"x","usable":2}]', /usable must be at most 1; received 2/],
    ['[{"kind":"board","id":"x","title":"x","radio":"maybe"}]', /radio must be yes or no; received "maybe"/],
  ])('names what is wrong with %s', (text, message) => {
    const { parts, issues } = partsFromJson(text);
    expect(parts).toEqual([]);
    expect(issues[0]!.message).toMatch(message);
  });

  it('is made of the same texts as the form', () => {
    for (const part of SHELF) expect(partFromCells(partToCells(part))).toEqual(part);
    const cells = { ...partToCells(partLike('sensor', 'ntc-bead-10k')), price: '' };
    // An emptied cell takes the kind's plain value.
    expect(partFromCells(cells)).toMatchObject({ price: 0 });
    expect(partFromCells({ ...cells, high: 'hot' })).toMatchObject([{ field: 'high' }]);
  });
});

describe('the parts list', () => {
  const picks = {
    temperature: ['ntc-bead-10k', 'converter-16-4'] as const,
    board: 'small-8-bit',
    display: 'character-20x4',
    supply: 'wall-9v',
  };
  const extras = [
    { partId: 'ntc-bead-10k', quantity: 0, owned: 1, secondHand: 1 },
    { partId: 'small-8-bit', quantity: 0, owned: 0, secondHand: 0.5 },
    { partId: 'jack-3', quantity: 4, owned: 0, secondHand: 1 },
  ];
  const plan = planFrom('several-temperatures', picks, { budget: 60, readyMade: 200 }, { extras });

  it('holds picks, converters, what the dividers take and what was added, less what is owned', () => {
    const list = partsList(plan);
    const quantity = (id: string) => list.find((l) => l.partId === id)!.quantity;
    expect([
      quantity('ntc-bead-10k'),
      quantity('converter-16-4'),
      quantity('resistor-1pc'),
      quantity('jack-3'),
    ]).toEqual([4, 1, 4, 4]);
    const price = (id: string) => SHELF.find((q) => q.id === id)!.price;
    const expected =
      3 * price('ntc-bead-10k') +
      price('converter-16-4') +
      0.5 * price('small-8-bit') +
      price('character-20x4') +
      price('wall-9v') +
      4 * price('resistor-1pc') +
      4 * price('jack-3');
    expect(listCost(plan).total).toBeCloseTo(expected, 9);
    expect(listCost(plan).againstReadyMade).toBeCloseTo(200 - expected, 9);
  });

  it('asks for a level shifter where levels cross', () => {
    const crossed = planFrom('crossing-timer', { race: 'ultrasonic-two-pin', board: 'radio-32-bit' });
    expect(partsList(crossed).map((l) => l.partId)).toContain('level-shifter-4');
    expect(partsList(plan).map((l) => l.partId)).not.toContain('level-shifter-4');
  });

  it('goes out as CSV with the total, and no cell that a spreadsheet would run', () => {
    const own = partLike('sounder', 'buzzer-active', { id: 'odd', title: '=HYPERLINK("x")' });
    const rows = partsListCsv(
      planFrom('several-temperatures', { ...picks, sounder: 'odd' }, {}, {}, [...SHELF, own]),
    ).split('\r\n');
    expect(rows[0]).toMatch(/^part,for,quantity,owned,to buy/);
    expect(rows.at(-1)).toMatch(/^total,,,,,,,\d+\.\d\d$/);
    expect(rows.some((r) => r.startsWith('='))).toBe(false);
    expect(rows.join('\n')).toContain("'=HYPERLINK");
  });
});
