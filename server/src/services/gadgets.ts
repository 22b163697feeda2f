import { randomInt, randomUUID } from 'node:crypto';
import { alarmFault } from '@lucky-needle/core/face';
import { compileLine, LineError } from '@lucky-needle/core/line';
import type { Gadget, GadgetPatch, LinkPatch, LogEntry, NewGadget } from '@lucky-needle/core/model';
import { BOARDS, DISPLAYS, SENSORS, TEMPLATES, briefFaults } from '@lucky-needle/core/plan';
import { randomThermistorTruth, type WorldTruth } from '@lucky-needle/core/simulate';
import { UNITS } from '@lucky-needle/core/units';
import type { LinkRunner } from '../capture/linkRunner.ts';
import { ProblemError, notFound, staleVersion } from '../http/problem.ts';
import type { Bench } from './bench.ts';

export function gadgetService(bench: Bench) {
  const { tables } = bench;

  async function find(id: string): Promise<Gadget> {
    const gadget = await tables.gadgets.find(id);
    if (!gadget) throw notFound('gadget', id);
    return gadget;
  }

  return {
    find,

    async create({ template: templateId, name }: NewGadget, now = bench.now()): Promise<Gadget> {
      const template = TEMPLATES.find((t) => t.id === templateId);
      if (!template) {
        throw new ProblemError(
          422,
          'no-template',
          'Not valid',
          `There is no template "${templateId}".`,
          `Choose ${TEMPLATES.map((t) => t.id).join(' or ')}.`,
          'template',
        );
      }
      const gadget: Gadget = {
        id: randomUUID(),
        template: templateId,
        version: 1,
        createdAt: now,
        updatedAt: now,
        name,
        ...structuredClone(template.make()),
      };
      await tables.gadgets.insert(gadget);
      await tables.logbook.write(
        gadget.id,
        'workshop',
        `Gadget "${name}" started from the template "${template.title}".`,
        now,
      );
      return gadget;
    },

    /** @throws {ProblemError} 412 when the sent version is not the present one, 422 when a section cannot work */
    async patch(id: string, version: string, patch: GadgetPatch, now = bench.now()): Promise<Gadget> {
      const gadget = await find(id);
      if (version !== String(gadget.version)) throw staleVersion(version, gadget.version);
      const next: Gadget = { ...gadget, ...patch, version: gadget.version + 1, updatedAt: now };
      checkGadget(next);
      if (!(await tables.gadgets.update(next))) throw staleVersion(version, (await find(id)).version);
      for (const { step, text } of describeChanges(gadget, next))
        await tables.logbook.write(id, step, text, now);
      bench.changed(id, 'gadget');
      return next;
    },

    async remove(id: string): Promise<void> {
      await find(id);
      if (bench.links.of(id)?.recorder) {
        throw new ProblemError(
          409,
          'recording',
          'Recording',
          'This gadget is being recorded.',
          'Stop the recording first.',
        );
      }
      bench.links.stop(id);
      await tables.gadgets.setDeleted(id, bench.now());
    },

    async restore(id: string): Promise<Gadget> {
      if (!(await tables.gadgets.setDeleted(id, null))) throw notFound('gadget', id);
      const gadget = await find(id);
      await bench.links.start(gadget);
      return gadget;
    },

    /** Attaches a simulated gadget with the given hidden truth, or one drawn at random about the line's own constants. */
    async attachSimulator(
      gadgetId: string,
      truth?: WorldTruth,
      name = 'Simulated gadget',
    ): Promise<LinkRunner> {
      const gadget = await find(gadgetId);
      if (await tables.links.ofGadget(gadgetId)) {
        throw new ProblemError(
          409,
          'has-link',
          'Already linked',
          'This gadget has a link.',
          'Use the link it has.',
        );
      }
      await tables.links.insert({
        id: randomUUID(),
        gadgetId,
        kind: 'simulated',
        name,
        truth: truth ?? drawTruth(gadget),
        speed: 1,
      });
      await tables.logbook.write(gadgetId, 'hook-up', `${name} linked.`);
      const runner = await bench.links.start(gadget);
      bench.changed(gadgetId, 'link');
      return runner!;
    },

    link(gadgetId: string): LinkRunner {
      const runner = bench.links.of(gadgetId);
      if (!runner)
        throw new ProblemError(
          404,
          'no-link',
          'No link',
          'This gadget has no link.',
          'Link a simulated gadget on the Hook-up page.',
        );
      return runner;
    },

    async patchLink(gadgetId: string, patch: LinkPatch): Promise<LinkRunner> {
      const runner = this.link(gadgetId);
      try {
        runner.change(patch);
      } catch (error) {
        throw new ProblemError(
          422,
          'no-condition',
          'Not valid',
          (error as Error).message,
          'Choose one of those.',
          'condition',
        );
      }
      if (patch.speed !== undefined) await tables.links.setSpeed(runner.stored.id, patch.speed);
      bench.changed(gadgetId, 'link');
      return runner;
    },
  };
}

/** The rules a schema cannot tell. */
function checkGadget(gadget: Gadget): void {
  const invalid = (field: string, detail: string) =>
    new ProblemError(
      422,
      'invalid-gadget',
      'Not valid',
      detail,
      'Correct it and save again; nothing was changed.',
      field,
    );
  const ids = gadget.channels.map((c) => c.id);
  if (new Set(ids).size !== ids.length) throw invalid('channels', 'Two channels have the same id.');
  if (gadget.brief) {
    const [fault] = briefFaults(gadget.brief);
    if (fault) throw invalid(`brief.${fault.field}`, fault.message);
  }
  gadget.channels.forEach((channel, i) => {
    try {
      compileLine(channel.line, { sampleRateHz: gadget.sampleRateHz });
    } catch (error) {
      if (error instanceof LineError)
        throw invalid(
          `channels.${i}.line${error.stage ? `.${error.stage.id}` : ''}`,
          `${channel.name}: ${error.message}`,
        );
      throw error;
    }
  });
  if (gadget.pick && !SENSORS.some((s) => s.id === gadget.pick!.partId))
    throw invalid('pick.partId', `There is no part "${gadget.pick.partId}" on the shelf.`);
  if (gadget.hookup && !BOARDS.some((b) => b.id === gadget.hookup!.boardId))
    throw invalid('hookup.boardId', `There is no board "${gadget.hookup.boardId}" on the shelf.`);
  if (gadget.face) {
    if (!DISPLAYS.some((d) => d.id === gadget.face!.displayId))
      throw invalid('face.displayId', `There is no display "${gadget.face.displayId}" on the shelf.`);
    const fault = gadget.brief && alarmFault(gadget.face.alarm, gadget.brief.low, gadget.brief.high);
    if (fault) throw invalid('face.alarm', fault);
  }
}

function describeChanges(before: Gadget, after: Gadget): { step: LogEntry['step']; text: string }[] {
  const changed = (key: keyof Gadget) => JSON.stringify(before[key]) !== JSON.stringify(after[key]);
  const entries: { step: LogEntry['step']; text: string }[] = [];
  if (changed('name')) entries.push({ step: 'workshop', text: `Renamed to "${after.name}".` });
  if ((changed('brief') || changed('place')) && after.brief) {
    const { quantity, low, high, unit, tolerance } = after.brief;
    entries.push({
      step: 'brief',
      text: `Brief: ${quantity} ${low} to ${high} ${UNITS[unit].symbol}, ±${tolerance}; ${after.place.name}, ${after.place.elevationM} m.`,
    });
  }
  if (changed('pick') && after.pick) {
    const part = SENSORS.find((s) => s.id === after.pick!.partId);
    entries.push({
      step: 'pick',
      text: `Picked ${part?.title ?? after.pick.partId}.${after.pick.reason ? ` Why: ${after.pick.reason}` : ''}`,
    });
  }
  if (changed('hookup') && after.hookup) {
    const board = BOARDS.find((b) => b.id === after.hookup!.boardId);
    entries.push({
      step: 'hook-up',
      text: `Hook-up: ${board?.title ?? after.hookup.boardId}; ${after.hookup.pins.map((p) => `${after.channels.find((c) => c.id === p.channelId)?.name ?? p.channelId} on ${p.pin}`).join(', ')}.`,
    });
  }
  for (const channel of after.channels) {
    const old = before.channels.find((c) => c.id === channel.id);
    if (old && JSON.stringify(old.line) !== JSON.stringify(channel.line)) {
      entries.push({
        step: 'line',
        text: `Line of ${channel.name} changed: ${describeLineChange(old.line.stages, channel.line.stages)}.`,
      });
    }
  }
  if (changed('face') && after.face) {
    const { caution, limit, hysteresis } = after.face.alarm;
    const symbol = after.brief ? UNITS[after.brief.unit].symbol : '';
    entries.push({
      step: 'face',
      text: `Face: caution at ${caution} ${symbol}, limit at ${limit} ${symbol}, hysteresis ${hysteresis} ${symbol}.`,
    });
  }
  return entries;
}

type Stages = Gadget['channels'][number]['line']['stages'];

function describeLineChange(before: Stages, after: Stages): string {
  const parts: string[] = [];
  for (const stage of after) {
    const old = before.find((s) => s.id === stage.id);
    if (!old) parts.push(`${stage.kind} added`);
    else {
      if (old.off !== stage.off) parts.push(`${stage.kind} switched ${stage.off ? 'off' : 'on'}`);
      for (const [name, value] of Object.entries(stage.params)) {
        if (old.params[name] !== value)
          parts.push(`${stage.kind} ${name} ${String(old.params[name])} to ${String(value)}`);
      }
    }
  }
  for (const old of before) if (!after.some((s) => s.id === old.id)) parts.push(`${old.kind} removed`);
  return parts.join('; ') || 'stages reordered';
}

function drawTruth(gadget: Gadget): WorldTruth {
  const line = gadget.channels[0]!.line;
  const param = (kind: string, name: string) => line.stages.find((s) => s.kind === kind)?.params[name];
  const r0 = param('thermistor-beta', 'r0Ohm');
  if (r0 === undefined) {
    throw new ProblemError(
      422,
      'cannot-simulate',
      'Cannot be simulated',
      'A simulated gadget needs a thermistor line, from the template "Several temperatures".',
      'Start a gadget from that template.',
    );
  }
  return randomThermistorTruth(
    {
      columns: gadget.channels.map((c) => c.line.sources[0]!.column),
      r0Ohm: Number(r0),
      betaK: Number(param('thermistor-beta', 'betaK')),
      seriesOhm: Number(param('divider', 'seriesOhm')),
      seriesSide: param('divider', 'side') === 'bottom' ? 'bottom' : 'top',
      adcBits: Number(param('adc', 'bits')),
      elevationM: gadget.place.elevationM,
    },
    randomInt(1, 2 ** 31),
  );
}
