import Papa from 'papaparse';
import { Value } from 'typebox/value';
import { PART_KINDS, PART_SCHEMAS, type Part, type PartIssue, type PartKind } from '../model/part.ts';
import { ruleInWords } from './partRules.ts';
import { partFaults } from './partFaults.ts';
import { blankPart } from './shelf/blank.ts';

export interface PartsRead {
  readonly parts: readonly Part[];
  readonly issues: readonly PartIssue[];
}

const KINDS_IN_WORDS = PART_KINDS.join(', ');

/**
 * Reads parts from CSV: a row a part, a column a field, with "kind" and "id"; an empty cell is the kind's plain value; lists
 * are separated by semicolons, addresses may be hexadecimal. A bad row is left out and reported with its number, counted
 * from 1 at the first row of data.
 */
export function partsFromCsv(text: string): PartsRead {
  const { data } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (h) => h.trim(),
  });
  return collect(data.map((row) => fromCells(row)));
}

/** Reads parts from JSON: a list, or an object with a list under "parts". Fields that are missing take the kind's plain value. */
export function partsFromJson(text: string): PartsRead {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return {
      parts: [],
      issues: [
        {
          row: 0,
          code: 'not-a-part',
          field: '',
          message: `This is not valid JSON: ${(error as Error).message}. Export the shelf to see the expected format.`,
        },
      ],
    };
  }
  const list = Array.isArray(value) ? value : (value as { parts?: unknown } | null)?.parts;
  if (!Array.isArray(list))
    return {
      parts: [],
      issues: [
        {
          row: 0,
          code: 'not-a-part',
          field: 'parts',
          message: 'A parts file must be a list, or an object with a list under "parts".',
        },
      ],
    };
  return collect(list);
}

function collect(rows: readonly unknown[]): PartsRead {
  const parts: Part[] = [];
  const issues: PartIssue[] = [];
  rows.forEach((row, i) => {
    const told = checkPart(row, i + 1);
    if (Array.isArray(told)) issues.push(...told);
    else if (parts.some((p) => p.id === told.id))
      issues.push({
        row: i + 1,
        code: 'twice',
        field: 'id',
        message: `The id "${told.id}" appears twice in the file. Give each part its own id.`,
      });
    else parts.push(told);
  });
  return { parts, issues };
}

/** A checked part, or what is wrong with the row. */
function checkPart(value: unknown, row: number): Part | PartIssue[] {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return [{ row, code: 'not-a-part', field: '', message: 'A part must be an object with fields.' }];
  const given = value as Record<string, unknown>;
  const kind = given['kind'];
  if (typeof kind !== 'string' || !(PART_KINDS as readonly string[]).includes(kind))
    return [
      {
        row,
        code: 'unknown-kind',
        field: 'kind',
        message: `Unknown kind ${JSON.stringify(kind ?? '')}. Choose one of ${KINDS_IN_WORDS}.`,
      },
    ];
  const schema = PART_SCHEMAS[kind as PartKind];
  const unknown = Object.keys(given).filter((name) => !(name in schema.properties));
  if (unknown.length > 0)
    return [
      {
        row,
        code: 'unknown-field',
        field: unknown[0]!,
        message: `A ${kind} has no field ${unknown.map((n) => `"${n}"`).join(', ')}. Its fields are ${Object.keys(schema.properties).join(', ')}.`,
      },
    ];
  const part = { ...blankPart(kind as PartKind), ...given } as Part;
  // What draws more than its peak says was given no peak.
  if (given['peakA'] === undefined) (part as { peakA: number }).peakA = Number(part.onA);
  if (given['warmUpA'] === undefined) (part as { warmUpA: number }).warmUpA = Number(part.onA);
  const errors = [...Value.Errors(schema, part)];
  if (errors.length > 0)
    return errors.slice(0, 3).map((error) => {
      const field = error.instancePath.split('/')[1] ?? '';
      const received = JSON.stringify((part as unknown as Record<string, unknown>)[field]);
      const must = ruleInWords(error, field, schema.properties[field as keyof typeof schema.properties]);
      return {
        row,
        code: 'bad-field' as const,
        field,
        message: `${field || 'The part'} ${must}; received ${received}.`,
      };
    });
  return partFaults(part).length > 0
    ? partFaults(part).map(({ field, message }) => ({ row, code: 'rule' as const, field, message }))
    : part;
}

/** Cells of one CSV row as typed fields; text that is no number stays text, so that the check can name it. */
function fromCells(row: Record<string, string>): Record<string, unknown> {
  const kind = (row['kind'] ?? '').trim();
  const schema = (PART_KINDS as readonly string[]).includes(kind) ? PART_SCHEMAS[kind as PartKind] : null;
  const typed: Record<string, unknown> = {};
  for (const [name, raw] of Object.entries(row)) {
    const cell = typeof raw === 'string' ? raw.trim() : '';
    if (cell === '' || name === '' || name === '__parsed_extra') continue;
    const rule = (schema?.properties as Record<string, { type?: string }> | undefined)?.[name];
    // A column that another kind of part has means nothing here: files hold all kinds in one table.
    if (!rule && Object.values(PART_SCHEMAS).some((s) => name in s.properties) && schema) {
      continue;
    }
    typed[name] = typedCell(cell, rule?.type ?? 'string', name);
  }
  return typed;
}

function typedCell(cell: string, type: string, name: string): unknown {
  const asNumber = (text: string) => {
    const plain = text.trim().replace(',', '.');
    return plain !== '' && Number.isFinite(Number(plain)) ? Number(plain) : text;
  };
  switch (type) {
    case 'number':
    case 'integer':
      return asNumber(cell);
    case 'boolean':
      return { yes: true, true: true, no: false, false: false }[cell.toLowerCase()] ?? cell;
    case 'array': {
      const items = cell.split(';').map((t) => t.trim());
      return name === 'addresses' ? items.map(asNumber) : items;
    }
    default:
      return cell;
  }
}

/** A part with every field as text, as a row of a file or a form holds it. */
export function partToCells(part: Part): Record<string, string> {
  return Object.fromEntries(
    Object.entries(part).map(([name, value]) => [
      name,
      Array.isArray(value)
        ? value.join(';')
        : typeof value === 'boolean'
          ? value
            ? 'yes'
            : 'no'
          : String(value),
    ]),
  );
}

/** The part that such texts make, or what is wrong with them. */
export const partFromCells = (cells: Record<string, string>): Part | PartIssue[] =>
  checkPart(fromCells(cells), 1);

/** Parts as CSV, one table for all kinds; a file written so is read back the same. */
export function partsToCsv(parts: readonly Part[]): string {
  const fields = [...new Set(PART_KINDS.flatMap((kind) => Object.keys(PART_SCHEMAS[kind].properties)))];
  const rows = parts.map((part) => {
    const cells = partToCells(part);
    return fields.map((name) => cells[name] ?? '');
  });
  return Papa.unparse([fields, ...rows], { newline: '\r\n' });
}

export const partsToJson = (parts: readonly Part[]): string => `${JSON.stringify({ parts }, null, 2)}\n`;
