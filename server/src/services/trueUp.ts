import { randomUUID } from 'node:crypto';
import {
  FITS,
  calibratedLine,
  calibrationFault,
  fitCalibration,
  fitPoint,
  sameFit,
} from '@lucky-needle/core/calibrate';
import { compileLine, editLine, emitLineHeader, LineError } from '@lucky-needle/core/line';
import type {
  Calibration,
  CalibrationPatch,
  CalibrationPoint,
  Channel,
  FitResult,
  Gadget,
  NewCalibration,
  NewPoint,
  NewPointCalibrations,
  PointPatch,
  ReferenceInput,
} from '@lucky-needle/core/model';
import { readoutChannel, trueUpChannel } from '@lucky-needle/core/plan';
import { seenInPoints } from '@lucky-needle/core/prove';
import { referenceValue } from '@lucky-needle/core/references';
import { printConstant, printSignificant, printWithUncertainty, UNITS } from '@lucky-needle/core/units';
import { ProblemError, notFound } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import { lowerFirst } from '@lucky-needle/core/words';

export function trueUpService(bench: Bench) {
  const { tables } = bench;

  async function channelOf(
    gadgetId: string,
    channelId: string,
  ): Promise<{ gadget: Gadget; channel: Channel }> {
    const gadget = await tables.gadgets.find(gadgetId);
    if (!gadget) throw notFound('gadget', gadgetId);
    const channel = gadget.channels.find((c) => c.id === channelId);
    if (!channel) throw notFound('channel', channelId);
    return { gadget, channel };
  }

  /** A channel that is trued up itself: one that goes on from another reads by the other's calibration. */
  async function ownChannelOf(gadgetId: string, channelId: string): ReturnType<typeof channelOf> {
    const { gadget, channel } = await channelOf(gadgetId, channelId);
    const owner = trueUpChannel(gadget, channel);
    if (owner.id !== channel.id)
      throw new ProblemError(
        409,
        'fed-channel',
        'Calibrated with another channel',
        `${channel.name} continues from ${owner.name} and uses its calibration.`,
        `Calibrate ${owner.name} instead.`,
      );
    return { gadget, channel };
  }

  async function keep(gadgetId: string, channel: Channel, point: CalibrationPoint): Promise<void> {
    await tables.points.insert(gadgetId, point);
    const printed = printWithUncertainty(point.worth.value, point.worth.uncertainty, point.worth.unit);
    await tables.logbook.write(
      gadgetId,
      'true-up',
      `${channel.name}: captured ${point.role === 'check' ? 'a check point' : 'a point'} at ${printed.value} ±${printed.uncertainty} ${printed.symbol} (${point.worth.title}), ${printSignificant(point.capture.mean, 5)} counts.`,
      point.keptAt,
    );
  }

  return {
    /** Works out what the reference is worth and keeps the point: it is on disk when this returns. */
    async keepPoint(gadgetId: string, input: NewPoint, keptAt = bench.now()): Promise<CalibrationPoint> {
      const { gadget, channel } = await ownChannelOf(gadgetId, input.channelId);
      const point = pointOf(gadget, channel, input, keptAt);
      await keep(gadgetId, channel, point);
      bench.changed(gadgetId, 'points');
      return point;
    },

    /** Points of several channels and what each is trued up by: all are worked out before any is kept. */
    async calibrateAll(gadgetId: string, input: NewPointCalibrations): Promise<{ items: Calibration[] }> {
      const keptAt = bench.now();
      const before = await tables.points.list(gadgetId);
      const acts: { channel: Channel; point: CalibrationPoint; fitted: Fitted }[] = [];
      for (const newPoint of input.points) {
        const { gadget, channel } = await ownChannelOf(gadgetId, newPoint.channelId);
        const point = pointOf(gadget, channel, newPoint, keptAt);
        const fitted = fitOf(gadget, channel, input.fit, [...before, point]);
        refuseUnreadable(channel, fitted.result);
        acts.push({ channel, point, fitted });
      }
      const items: Calibration[] = [];
      for (const { channel, point } of acts) await keep(gadgetId, channel, point);
      for (const { channel, fitted } of acts) {
        const about = { pointIds: fitted.pointIds, note: input.note, use: true };
        items.push(await this.store(gadgetId, channel.id, fitted.result, about, keptAt));
      }
      bench.changed(gadgetId, 'points');
      return { items };
    },

    async patchPoint(id: string, patch: PointPatch): Promise<CalibrationPoint> {
      const found = await tables.points.find(id);
      if (!found) throw notFound('point', id);
      const { reference, ...rest } = patch;
      const gadget = await tables.gadgets.find(found.gadgetId);
      const channel = gadget?.channels.find((c) => c.id === found.point.channelId);
      const title = `${channel ? `${channel.name}: ` : ''}${found.point.worth.title}`;
      if (reference) await this.correct(found.gadgetId, found.point, reference);
      if (Object.keys(rest).length > 0) await tables.points.patch(id, rest);
      if (patch.excluded)
        await tables.logbook.write(found.gadgetId, 'true-up', `${title} excluded: ${patch.excluded}.`);
      if (patch.excluded === null)
        await tables.logbook.write(found.gadgetId, 'true-up', `${title} included again.`);
      if (patch.role)
        await tables.logbook.write(
          found.gadgetId,
          'true-up',
          `${title} is now ${patch.role === 'check' ? 'a check point' : 'a point for the fit'}.`,
        );
      bench.changed(found.gadgetId, 'points');
      return (await tables.points.find(id))!.point;
    },

    /** Another reference for a point that was kept with a wrong one; what it was stays in the logbook. */
    async correct(gadgetId: string, point: CalibrationPoint, reference: ReferenceInput): Promise<void> {
      const { gadget, channel } = await channelOf(gadgetId, point.channelId);
      const unit = compileLine(channel.line, { sampleRateHz: gadget.sampleRateHz }).outputs[0]!.unit;
      const worth = referenceValue(reference, unit);
      await tables.points.correct(point.id, reference, worth);
      const [was, is] = [point.worth, worth].map(({ title, value, uncertainty, unit }) => {
        const printed = printWithUncertainty(value, uncertainty, unit);
        return `${printed.value} ±${printed.uncertainty} ${printed.symbol} (${title})`;
      });
      await tables.logbook.write(
        gadgetId,
        'true-up',
        `${channel.name}: reference of the point at ${printSignificant(point.capture.mean, 5)} counts corrected from ${was} to ${is}.`,
      );
    },

    /** Fits on the server with the stored points, so that what is stored never depends on a browser's arithmetic. */
    async calibrate(gadgetId: string, input: NewCalibration, createdAt = bench.now()): Promise<Calibration> {
      const { gadget, channel } = await ownChannelOf(gadgetId, input.channelId);
      const { result, pointIds } = fitOf(gadget, channel, input.fit, await tables.points.list(gadgetId));
      const about = { pointIds, note: input.note, use: input.use };
      return this.store(gadgetId, channel.id, result, about, createdAt);
    },

    /** Stores a result as the channel's next version, and puts it in use if asked. One like that in use is no new version. */
    async store(
      gadgetId: string,
      channelId: string,
      result: FitResult,
      about: { pointIds: string[]; note: string; use: boolean },
      createdAt = bench.now(),
    ): Promise<Calibration> {
      const { channel } = await channelOf(gadgetId, channelId);
      if (about.use) refuseUnreadable(channel, result);
      const used = (await tables.calibrations.list(gadgetId)).find(
        (c) => c.channelId === channelId && c.state === 'in use',
      );
      if (used && sameFit(used.result, result) && calibrationFault(channel.line, used) === null) return used;
      const calibration: Calibration = {
        id: randomUUID(),
        channelId,
        number: await tables.calibrations.nextNumber(gadgetId, channelId),
        state: 'draft',
        result,
        pointIds: about.pointIds,
        note: about.note,
        createdAt,
        usedAt: null,
      };
      await tables.calibrations.insert(gadgetId, calibration);
      if (!about.use) bench.changed(gadgetId, 'calibrations');
      return about.use ? this.use(calibration.id, createdAt) : calibration;
    },

    async use(id: string, at = bench.now()): Promise<Calibration> {
      const found = await tables.calibrations.find(id);
      if (!found) throw notFound('calibration', id);
      const { gadgetId, calibration } = found;
      const { channel } = await channelOf(gadgetId, calibration.channelId);
      refuseUnreadable(channel, calibration.result);
      await tables.calibrations.use(gadgetId, calibration.channelId, id, at);
      const constants = calibration.result.parameters.map((p) => {
        const u = 2 * p.u;
        return `${p.title} ${printConstant(p.value, u)} ±${printConstant(u, u)} ${p.unit}`.trim();
      });
      await tables.logbook.write(
        gadgetId,
        'true-up',
        `${channel.name}: calibration ${calibration.number} is now active, ${lowerFirst(calibration.result.title)}; ${constants.join(', ')}.`,
        at,
      );
      bench.changed(gadgetId, 'calibrations');
      return (await tables.calibrations.find(id))!.calibration;
    },

    /** After how many months it is to be checked. */
    async patchCalibration(id: string, patch: CalibrationPatch): Promise<Calibration> {
      const found = await tables.calibrations.find(id);
      if (!found) throw notFound('calibration', id);
      const { gadgetId, calibration } = found;
      await tables.calibrations.patch(id, patch);
      const { channel } = await channelOf(gadgetId, calibration.channelId);
      const months = patch.goodForMonths === 1 ? '1 month' : `${patch.goodForMonths} months`;
      await tables.logbook.write(
        gadgetId,
        'true-up',
        `${channel.name}: calibration ${calibration.number} is due for a check after ${months}.`,
      );
      bench.changed(gadgetId, 'calibrations');
      return { ...calibration, ...patch };
    },

    /** The channel's line with its calibration in use, as a C header. */
    async header(gadgetId: string, channelId: string): Promise<{ name: string; text: string }> {
      const { gadget, channel } = await channelOf(gadgetId, channelId);
      const calibrations = await tables.calibrations.list(gadgetId);
      const owner = trueUpChannel(gadget, channel);
      const { calibration } = calibratedLine(owner.line, owner.id, calibrations);
      const { line, slowestHz } = readoutChannel(gadget, channel, calibrations, []);
      try {
        // At the pace at which the gadget really sends, where that is known.
        const sampleRateHz = bench.links.of(gadgetId)?.live.sampleRateHz ?? gadget.sampleRateHz;
        const compiled = compileLine(line, { sampleRateHz, slowestHz });
        const unit = UNITS[compiled.outputs[0]!.unit].name;
        const text = emitLineHeader(compiled, {
          name: channel.name,
          watches: channel.watches ?? [],
          remarks: [
            `${gadget.name}, ${channel.name}: raw counts to ${unit}`,
            calibration
              ? `calibration ${calibration.number}, ${lowerFirst(calibration.result.title)}, active since ${calibration.usedAt?.slice(0, 10) ?? ''}`
              : 'uncalibrated: nominal constants',
            `generated by Lucky Needle on ${bench.now().slice(0, 10)}`,
          ],
        });
        return { name: `${channel.name.toLowerCase().replace(/[^a-z0-9]+/g, '_')}.h`, text };
      } catch (error) {
        if (error instanceof LineError) {
          throw new ProblemError(
            422,
            'cannot-export',
            'Cannot export to C',
            error.message,
            'Change the line and try again.',
          );
        }
        throw error;
      }
    },
  };
}

/** A point that is not stored yet, with what its reference is worth. */
function pointOf(gadget: Gadget, { line }: Channel, input: NewPoint, keptAt: string): CalibrationPoint {
  const unit = compileLine(line, { sampleRateHz: gadget.sampleRateHz }).outputs[0]!.unit;
  return {
    id: randomUUID(),
    channelId: input.channelId,
    role: input.role,
    reference: input.reference,
    worth: referenceValue(input.reference, unit),
    capture: input.capture,
    excluded: null,
    keptAt,
  };
}

interface Fitted {
  readonly result: FitResult;
  readonly pointIds: string[];
}

/** A fit to those points of a channel that count. */
function fitOf(gadget: Gadget, channel: Channel, fit: string, all: readonly CalibrationPoint[]): Fitted {
  const refuse = (detail: string) =>
    new ProblemError(
      422,
      'cannot-fit',
      'Fit not possible',
      detail,
      'Capture more points, or choose another fit.',
      'fit',
    );
  const kind = FITS.find((f) => f.id === fit);
  if (!kind) throw refuse(`Unknown fit "${fit}". Choose one of ${FITS.map((f) => f.id).join(', ')}.`);
  const context = { sampleRateHz: gadget.sampleRateHz };
  const unit = compileLine(channel.line, context).outputs[0]!.unit;
  const counted = all.filter((p) => p.channelId === channel.id && p.excluded === null);
  const points = counted.filter((p) => p.role === 'fit');
  const result = fitCalibration(
    kind,
    channel.line,
    context,
    points.map((p) => fitPoint(p, unit)),
  );
  if (typeof result === 'string') throw refuse(result);
  if (!result.converged) throw refuse(`The fit did not converge: ${result.reason}.`);
  const trued = compileLine(editLine(channel.line, result.edits), context);
  const half = seenInPoints(counted, trued).hysteresis;
  return {
    result: half > 0 ? { ...result, hysteresis: { half, unit } } : result,
    pointIds: points.map((p) => p.id),
  };
}

export type TrueUp = ReturnType<typeof trueUpService>;

/** What the line cannot be read by is never put in use. */
export function refuseUnreadable({ name, line }: Channel, result: FitResult): void {
  const fault = calibrationFault(line, { result });
  if (fault)
    throw new ProblemError(
      422,
      'cannot-use',
      'Calibration cannot be used',
      `${name} cannot be read with this calibration: ${fault}`,
      'Check the points and constants, then calibrate again.',
      'fit',
    );
}
