import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import {
  collectTable,
  delimitedReader,
  delimitedWriter,
  gpxReader,
  gpxWriter,
  ndjsonReader,
  ndjsonRow,
  nmeaChecksum,
  nmeaFix,
  nmeaReader,
  packageDescriptor,
  packageTablePath,
  pairsLogReader,
  planDelimited,
  readCalibrationJson,
  readLineJson,
  readSenml,
  senmlReader,
  wavReader,
  writeCalendar,
  writeCalibrationJson,
  writeLineJson,
  writeSenml,
  writeWav,
  type DelimitedPlan,
  type TableReader,
  type TableSink,
} from '../src/formats/index.ts';
import { isoSeconds, isoTime } from '../src/units/index.ts';
import { thermistorLine } from '../src/plan/index.ts';

/** Feeds a text in pieces of a given length and gives what came out. */
function readAll(make: (sink: TableSink) => TableReader, text: string, piece = 7) {
  const sink = collectTable();
  const reader = make(sink);
  for (let i = 0; i < text.length; i += piece) reader.push(text.slice(i, i + piece));
  reader.finish();
  return sink.found;
}

/** A whole track file. */
const gpxOf = (name: string, rows: readonly { timeS: number; values: readonly number[] }[]) => {
  const writer = gpxWriter(name);
  return writer.heading() + rows.map((r) => writer.point(r.timeS, r.values)).join('') + writer.ending();
};

const planOf = (text: string): DelimitedPlan => {
  const plan = planDelimited(text);
  if (typeof plan === 'string') throw new Error(plan);
  return plan;
};
/** A delimited file comes as bytes, cut anywhere: within a letter as well. */
function readDelimited(plan: DelimitedPlan, text: string, piece = 7) {
  const sink = collectTable();
  const reader = delimitedReader(plan, sink);
  const bytes = new TextEncoder().encode(text);
  for (let i = 0; i < bytes.length; i += piece) reader.push(bytes.slice(i, i + piece));
  reader.finish();
  return sink.found;
}
const delimited = (text: string, piece?: number) => readDelimited(planOf(text), text, piece);
const codes = (found: { issues: { code: string }[] }) => found.issues.map((i) => i.code);
const rowsOf = fc.array(
  fc.record({
    step: fc.double({ min: 1e-3, max: 10, noNaN: true }),
    values: fc.tuple(fc.double({ noDefaultInfinity: true }), fc.double({ noDefaultInfinity: true })),
  }),
  { minLength: 1, maxLength: 20 },
);
const timed = (rows: { step: number; values: [number, number] }[]) => {
  let t = 0;
  return rows.map((r) => ({ timeS: (t += r.step), values: r.values }));
};
const same = (a: readonly number[], b: readonly number[]) =>
  a.every((v, i) => v === b[i] || (Number.isNaN(v) && Number.isNaN(b[i]!)));

describe('delimited files', () => {
  it.each<[string, string, Partial<DelimitedPlan>, number[][]]>([
    [
      'commas with a heading',
      'ms,a,b\n0,1,2\n100,3,4\n',
      { delimiter: ',', timeScale: 1e-3, headingRows: 1 },
      [
        [1, 2],
        [3, 4],
      ],
    ],
    [
      'decimal commas',
      't;a\n0,5;1,25\n1;2\n',
      { delimiter: ';', decimal: ',', headingRows: 1 },
      [[1.25], [2]],
    ],
    ['tabs without a heading', '0\t5\n1\t6\n', { delimiter: '\t', headingRows: 0, timeScale: 1 }, [[5], [6]]],
    ['a row of units', 'time,probe\nmin,degC\n0,20\n1,21\n', { headingRows: 2, timeScale: 60 }, [[20], [21]]],
    ['dates', 'when,a\n2026-03-01T10:00:00Z,5\n2026-03-01 10:00:01,6\n', { timeScale: 'date' }, [[5], [6]]],
    ['quotes and a byte-order mark', '\uFEFF"t","a, with comma"\n0,"7"\n', { headingRows: 1 }, [[7]]],
  ])('%s', (_name, text, plan, rows) => {
    expect(planOf(text)).toMatchObject(plan);
    for (const piece of [1, 5, 1000]) expect(delimited(text, piece).rows).toEqual(rows);
  });

  it('knows units in headings', () => {
    expect(planOf('time [s],Probe 1 (°C),load [kgf]\n0,1,2\n').columns).toMatchObject([
      { name: 'Probe 1', unit: 'degC' },
      { name: 'load', unit: 'kgf' },
    ]);
  });

  it('keeps good rows and numbers the bad ones', () => {
    const found = delimited('t,a,b\n0,1,2\nx,1,2\n1,1\n2,1,2,3\n3,oops,1\n4,,nan\n3.5,1,2\n5,6,7');
    expect(found.times).toEqual([0, 4, 5]);
    expect(found.rows[1]!.every(Number.isNaN)).toBe(true);
    expect(found.issues.map((i) => [i.row, i.code])).toEqual([
      [3, 'no-time'],
      [4, 'too-few-fields'],
      [5, 'too-many-fields'],
      [6, 'not-a-number'],
      [8, 'time-backwards'],
    ]);
  });

  it.each([
    ['', /empty/],
    ['just words\nand more', /No column separator/],
    ['a,b\nc,d', /No row of numbers/],
  ])('says what it could not make out of %j', (text, message) =>
    expect(planDelimited(text)).toMatch(message),
  );

  it('comes back from its own writer, with either decimal sign', () => {
    fc.assert(
      fc.property(rowsOf, fc.boolean(), fc.integer({ min: 1, max: 40 }), (rows, comma, piece) => {
        const writer = delimitedWriter(
          [
            { name: 'a, or "b"', unit: 'degC' },
            { name: '=cmd()', unit: null },
          ],
          comma ? { delimiter: ';', decimal: ',' } : {},
        );
        const data = timed(rows);
        const plan: DelimitedPlan = {
          delimiter: comma ? ';' : ',',
          decimal: comma ? ',' : '.',
          headingRows: 1,
          timeColumn: 0,
          timeScale: 1,
          columns: [
            { name: 'a', unit: 'degC', at: 1 },
            { name: 'b', unit: null, at: 2 },
          ],
        };
        const text = [writer.heading(), ...data.map((r) => writer.row(r.timeS, r.values))].join('\n');
        const found = readDelimited(plan, text, piece);
        expect(found.issues).toEqual([]);
        expect(found.times).toEqual(data.map((r) => r.timeS));
        found.rows.forEach((row, i) => expect(same(row, data[i]!.values)).toBe(true));
      }),
    );
    expect(delimitedWriter([{ name: '=1+1', unit: null }]).heading()).toContain("'=1+1");
    expect(() => delimitedWriter([], { delimiter: ',', decimal: ',' })).toThrow(/must differ/);
  });
});

describe('console logs', () => {
  it('reads labels and values with units, and says which lines do not fit', () => {
    const found = readAll(
      (sink) => pairsLogReader(10, sink),
      'ms: 0, temp: 21.5 C, hum: 40 %\nboot ok\nms: 100, hum=41%, temp=21.6C\nms: 200, temp: 21.7\nms:300 temp:nan hum:43\n',
    );
    expect(found.columns).toEqual([
      { name: 'temp', unit: 'C' },
      { name: 'hum', unit: 'percent' },
    ]);
    expect(found.times).toEqual([0, 0.1, 0.3]);
    expect(found.rows.slice(0, 2)).toEqual([
      [21.5, 40],
      [21.6, 41],
    ]);
    expect(codes(found)).toEqual(['no-pairs', 'wrong-columns']);
  });

  it('counts time by the rate when a line has none', () => {
    expect(readAll((sink) => pairsLogReader(4, sink), 'a:1\na:2\na:3').times).toEqual([0, 0.25, 0.5]);
  });
});

describe('newline-delimited JSON', () => {
  it('reads numbers by name and codes what is wrong', () => {
    const found = readAll(
      ndjsonReader,
      '{"t":0,"a":1,"b":null}\n[1]\n{"t":1,"a":2,"b":3,"c":4}\n{"a":5}\n{"t":2,"a":"x","b":1}\nnonsense\n{"ms":3000,"b":7}',
    );
    expect(found.columns.map((c) => c.name)).toEqual(['a', 'b']);
    expect(found.times).toEqual([0, 1, 3]);
    expect(same(found.rows[2]!, [Number.NaN, 7])).toBe(true);
    expect(codes(found)).toEqual(['not-json', 'unknown-column', 'no-time', 'not-a-number', 'not-json']);
  });

  it('comes back from its own writer', () => {
    fc.assert(
      fc.property(rowsOf, (rows) => {
        const data = timed(rows);
        const columns = [
          { name: 'a', unit: null },
          { name: 'b', unit: null },
        ];
        const found = readAll(
          ndjsonReader,
          data.map((r) => ndjsonRow(columns, r.timeS, r.values)).join('\n'),
          50,
        );
        expect(found.issues).toEqual([]);
        found.rows.forEach((row, i) =>
          expect(
            same(
              row,
              data[i]!.values.map((v) => (v === 0 ? 0 : v)),
            ),
          ).toBe(true),
        );
      }),
    );
  });
});

describe('SenML', () => {
  it('resolves the example of the standard with base fields and relative time', () => {
    const text =
      '[{"bn":"urn:dev:ow:10e2073a01080063","bt":1.320067464e+09,"bu":"%RH","v":20},{"t":1.32006747e9,"v":3},{"u":"lon","t":60,"v":24.30621},{"n":"label","vs":"hi"},{"n":"open","vb":true}]';
    const { records, issues } = readSenml(text, 5e9);
    expect(records).toMatchObject([
      { unit: '%RH', timeS: 1320067464, value: 20 },
      { value: 3 },
      { unit: 'lon', timeS: 1320067524 },
      { name: 'urn:dev:ow:10e2073a01080063open', value: 1 },
    ]);
    expect(issues).toMatchObject([{ row: 3, code: 'no-number' }]);
    expect(readSenml('[{"n":"a","t":-5,"v":1}]', 1e9).records[0]!.timeS).toBe(1e9 - 5);
  });

  it('reads a pack piece by piece to the same records, however it is cut', () => {
    const text =
      '[{"bn":"mill/","bt":1.7e9,"n":"a{b\\\\\\"}","v":1},{"n":"temp","u":"Cel","v":21.5},{"n":"temp","t":1,"v":21.75},{"n":"open","vb":true}]';
    const whole = readSenml(text, 5e9);
    for (let piece = 1; piece < 40; piece += 3) {
      const found = { records: [] as unknown[], issues: [] as unknown[] };
      const reader = senmlReader(
        5e9,
        (r) => found.records.push(r),
        (i) => found.issues.push(i),
      );
      for (let at = 0; at < text.length; at += piece) reader.push(text.slice(at, at + piece));
      reader.finish();
      expect(found).toEqual(whole);
    }
    const codesOf = (text: string) => {
      const found: string[] = [];
      const reader = senmlReader(
        0,
        () => {},
        (i) => found.push(i.code),
      );
      reader.push(text);
      reader.finish();
      return found;
    };
    expect(codesOf('[{"n":"a","v":1},{"n":"b"')).toEqual(['cut-short']);
    expect(codesOf('[{"n":"a","v":}]')).toEqual(['not-a-record']);
    expect(codesOf('nonsense')).toEqual(['not-a-record']);
  });

  it('refuses what must be understood, bad names and what is no pack', () => {
    expect(
      codes(readSenml('[{"n":"a","v":1,"x_":2},{"n":"ä","v":1},{"n":"b","bver":11,"v":1},7]', 0)),
    ).toEqual(['unknown-must', 'bad-name', 'version', 'not-a-record']);
    expect(() => readSenml('{}', 0)).toThrow(/JSON array/);
    expect(() => readSenml('[', 0)).toThrow(SyntaxError);
  });

  it('comes back from its own writer', () => {
    const columns = [
      { name: 'temp', unit: 'degC' as const },
      { name: 'load', unit: 'N' as const },
    ];
    const rows = [
      { timeS: 1.7e9, values: [21.25, Number.NaN] },
      { timeS: 1.7e9 + 0.5, values: [21.5, 3] },
    ];
    const { records, issues } = readSenml(writeSenml('mill/', columns, rows), 0);
    expect(issues).toEqual([]);
    expect(records).toEqual([
      { name: 'mill/temp', unit: 'Cel', timeS: 1.7e9, value: 21.25 },
      { name: 'mill/temp', unit: 'Cel', timeS: 1.7e9 + 0.5, value: 21.5 },
      { name: 'mill/load', unit: 'N', timeS: 1.7e9 + 0.5, value: 3 },
    ]);
  });
});

describe('satellite sentences', () => {
  it('reads a known fix', () => {
    const body = 'GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W';
    expect(nmeaChecksum(body)).toBe('6A');
    const found = readAll(nmeaReader, `$${body}*6A\r\n`);
    expect(found.times[0]).toBe(isoSeconds('1994-03-23T12:35:19Z'));
    expect(found.rows[0]![0]).toBeCloseTo(48.1173, 6);
    expect(found.rows[0]![2]).toBeCloseTo(11.5236, 3);
  });

  it('joins both sentences of an instant and comes back from its own writer', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.double({ min: -89, max: 89, noNaN: true }),
            fc.double({ min: -179, max: 179, noNaN: true }),
            fc.double({ min: 0, max: 60, noNaN: true }),
          ),
          { minLength: 1, maxLength: 8 },
        ),
        (fixes) => {
          const start = isoSeconds('2026-12-31T23:59:58Z');
          const text = fixes
            .map(([lat, lon, speed], i) => nmeaFix(start + i, [lat, lon, speed, 90, 640, 9, 0.8]))
            .join('');
          const found = readAll(nmeaReader, text);
          expect(found.issues).toEqual([]);
          expect(found.times).toEqual(fixes.map((_, i) => start + i));
          found.rows.forEach((row, i) => {
            expect(row[0]).toBeCloseTo(fixes[i]![0], 7);
            expect(row[1]).toBeCloseTo(fixes[i]![1], 7);
            expect(row[2]).toBeCloseTo(fixes[i]![2], 3);
            expect(row.slice(4)).toEqual([640, 9, 0.8]);
          });
        },
      ),
    );
  });

  it('codes a wrong sum, no fix, broken fields and noise', () => {
    const sentence = (body: string) => `$${body}*${nmeaChecksum(body)}\n`;
    const found = readAll(
      nmeaReader,
      `$GPRMC,1*00\n${sentence('GPRMC,120000,V,,,,,,,010126,,')}${sentence('GPGGA,120000,9x,N,1,E,1,08,1,5,M,,M,,')}garbage\n$GPGLL,1\n${sentence('GPGSV,1')}`,
    );
    expect(codes(found)).toEqual(['checksum', 'no-fix', 'broken', 'not-a-sentence', 'no-checksum']);
    expect(found.rows).toEqual([]);
  });
});

describe('tracks', () => {
  it('come back from their own writer', () => {
    const rows = [
      { timeS: 1.8e9 + 0.25, values: [50.1, -10.2, 640] },
      { timeS: 1.8e9 + 1, values: [50.2, -10.3, Number.NaN] },
    ];
    const found = readAll(gpxReader, gpxOf('Punt & pole <1>', rows));
    expect(found.issues).toEqual([]);
    expect(found.times).toEqual(rows.map((r) => r.timeS));
    found.rows.forEach((row, i) => expect(same(row, rows[i]!.values)).toBe(true));
  });

  it('have no point for a reading without position', () => {
    const at = (latitude: number, longitude: number) => ({ timeS: 1.8e9, values: [latitude, longitude, 1] });
    const text = gpxOf('', [at(Number.NaN, 1), at(1, Number.NaN), at(1, Infinity)]);
    expect(readAll(gpxReader, text)).toMatchObject({ rows: [], issues: [] });
  });

  it('codes points without time or place, and what is no XML', () => {
    const found = readAll(
      gpxReader,
      '<gpx><trk><trkseg><trkpt lat="1" lon="2"></trkpt><trkpt lat="95" lon="2"><time>2026-01-01</time></trkpt></trkseg></trk></gpx>',
    );
    expect(codes(found)).toEqual(['no-time', 'no-position']);
    expect(codes(readAll(gpxReader, '<gpx><a></b>'))).toEqual(['not-xml']);
  });
});

describe('dates', () => {
  it('come back, leap years and time zones included', () => {
    fc.assert(
      fc.property(fc.integer({ min: -62135596800, max: 4e9 }), (s) => {
        expect(isoSeconds(isoTime(s))).toBe(s);
        expect(isoTime(s)).toBe(new Date(s * 1000).toISOString());
      }),
    );
    expect(isoSeconds('2026-07-01T12:00+02:00')).toBe(Date.UTC(2026, 6, 1, 10) / 1000);
    expect(isoSeconds('2026-13-01')).toBeNaN();
  });
});

describe('WAV', () => {
  const read = (bytes: Uint8Array, piece: number) => {
    const out: number[] = [];
    const issues: string[] = [];
    let rate = 0;
    const reader = wavReader({
      format: (f) => (rate = f.sampleRateHz),
      samples: (v) => out.push(...v),
      issue: (code) => issues.push(code),
    });
    for (let i = 0; i < bytes.length; i += piece) reader.push(bytes.slice(i, i + piece));
    reader.finish();
    return { out, issues, rate };
  };

  it('comes back from its own writer however it is cut', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ noNaN: true }), { minLength: 1, maxLength: 30 }),
        fc.integer({ min: 1, max: 100 }),
        (values, piece) => {
          const a = Float64Array.from(values);
          const found = read(writeWav([a, a.map((v) => -v)], 2000), piece);
          expect(found.issues).toEqual([]);
          expect(found.rate).toBe(2000);
          expect(found.out).toEqual(values.flatMap((v) => [v, -v]));
        },
      ),
    );
  });

  it('counts times by the first format that is told, and says that another was', () => {
    const first = writeWav([Float64Array.of(0.5, -0.5)], 8000);
    const chunks = (of: Uint8Array) => [...of.subarray(12)];
    const same = Uint8Array.from([...first, ...chunks(first)]);
    expect(read(same, 7)).toEqual({ out: [0.5, -0.5, 0.5, -0.5], issues: [], rate: 8000 });
    const other = Uint8Array.from([...first, ...chunks(writeWav([Float64Array.of(1)], 139_072))]);
    expect(read(other, 7)).toEqual({ out: [0.5, -0.5], issues: ['another-format'], rate: 8000 });
  });

  it('reads 16-bit and 24-bit samples, passes over other chunks', () => {
    const header = (bits: number, data: number[]) => {
      const bytes = writeWav([new Float64Array(8)], 8000).slice(0, 44 + 12 + data.length);
      const view = new DataView(bytes.buffer);
      view.setUint16(20, 1, true);
      view.setUint16(32, bits / 8, true);
      view.setUint16(34, bits, true);
      [...'LIST'].forEach((c, i) => view.setUint8(36 + i, c.charCodeAt(0)));
      view.setUint32(40, 4, true);
      [...'data'].forEach((c, i) => view.setUint8(48 + i, c.charCodeAt(0)));
      view.setUint32(52, data.length, true);
      data.forEach((b, i) => view.setUint8(56 + i, b));
      return bytes;
    };
    expect(read(header(16, [0, 0x40, 0, 0xc0]), 3).out).toEqual([0.5, -0.5]);
    expect(read(header(24, [0, 0, 0x40, 0, 0, 0xc0]), 3).out).toEqual([0.5, -0.5]);
    expect(read(header(12, [0]), 100).issues).toEqual(['unknown-format']);
  });

  it('says when the file is cut short or no WAV at all', () => {
    expect(read(writeWav([Float64Array.from([1, 2, 3])], 100).slice(0, 60), 9).issues).toEqual(['cut-short']);
    expect(
      read(
        Uint8Array.from({ length: 40 }, () => 65),
        9,
      ).issues,
    ).toEqual(['not-wav']);
    expect(() => writeWav([], 100)).toThrow(/at least one channel/);
    expect(() => writeWav([new Float64Array(1)], 0.5)).toThrow(/received 0.5/);
  });
});

describe('data packages', () => {
  const columns = [
    { name: 'Probe 1', unit: 'degC' },
    { name: 'load', unit: 'N' },
  ] as const;

  it('tell of one table: its file, its fields with units, and further facts', () => {
    const text = packageDescriptor({
      name: 'First firing!',
      title: 'First firing',
      columns,
      facts: { calibration: 3 },
    });
    expect(packageTablePath(text)).toBe('data.csv');
    const described = JSON.parse(text) as { resources: { schema: { fields: { name: string }[] } }[] };
    expect(described).toMatchObject({ name: 'first-firing', title: 'First firing', calibration: 3 });
    const { fields } = described.resources[0]!.schema;
    expect(fields).toMatchObject([
      { type: 'number', unit: 's' },
      { title: 'Probe 1', type: 'number', unit: 'degC' },
      { title: 'load', type: 'number', unit: 'N' },
    ]);
    // Fields are called what the heading of the table calls them.
    expect(fields.map((f) => f.name).join(',')).toBe(delimitedWriter(columns).heading());
    expect(JSON.parse(packageDescriptor({ name: '!', title: '', columns }))).toMatchObject({
      name: 'recording',
    });
  });

  it.each([
    [
      '{"resources":[{"path":"../../etc/hosts"}]}',
      /does not contain the data file it names; received "..\/..\/etc\/hosts"/,
    ],
    ['{"resources":[{"path":"/etc/hosts"}]}', /does not contain the data file/],
    ['{"resources":[{"path":"https://mill.example/data.csv"}]}', /does not contain the data file/],
    ['{"resources":[{"data":[1]}]}', /does not contain the data file it names; received undefined/],
    ['{"resources":[]}', /does not contain the data file/],
    ['null', /does not contain the data file/],
    ['nonsense', /is not valid JSON/],
  ])('that name no file of their own are refused: %s', (text, told) => {
    expect(() => packageTablePath(text)).toThrow(told);
  });
});

describe('due dates', () => {
  it('make a calendar that another reader understands', () => {
    const text = writeCalendar(
      [
        {
          uid: 'probe-1',
          dueS: isoSeconds('2027-02-01'),
          summary: 'True up; probe 1, door side',
          description: 'Ice,\nthen boiling',
        },
      ],
      isoSeconds('2026-11-01T10:00Z'),
    );
    const event = new ICAL.Component(ICAL.parse(text) as unknown[]).getFirstSubcomponent('vevent')!;
    expect(event.getFirstPropertyValue('summary')).toBe('True up; probe 1, door side');
    expect(String(event.getFirstPropertyValue('dtstart'))).toBe('2027-02-01');
    expect(text.split('\r\n').every((line) => line.length <= 75)).toBe(true);
  });
});

describe('lines and calibrations as JSON', () => {
  it('come back, and wrong ones are told what is wrong', () => {
    const line = thermistorLine('p1');
    expect(readLineJson(writeLineJson(line), 10)).toEqual(line);
    expect(readLineJson('{', 10)).toMatch(/not valid JSON/);
    expect(readLineJson('{"format":"other"}', 10)).toMatch(/not of type/);
    expect(readLineJson('{"format":"lucky-needle/line","version":9}', 10)).toMatch(/version 9/);
    expect(readLineJson(writeLineJson({ ...line, stages: line.stages.slice(2) }), 10)).toMatch(/needs ohm/);
    expect(
      readLineJson(JSON.stringify({ format: 'lucky-needle/line', version: 1, line: { sources: [] } }), 10),
    ).toMatch(/cannot be used/);
    expect(readCalibrationJson(writeCalibrationJson({} as never, {}))).toMatch(/cannot be used/);
  });
});
