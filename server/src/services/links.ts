import { randomInt, randomUUID } from 'node:crypto';
import { dirname, isAbsolute, normalize } from 'node:path';
import { isWritableTime, STAMP_WORDS, stampScale } from '@lucky-needle/core/formats';
import { isoSeconds } from '@lucky-needle/core/units';
import type {
  Gadget,
  LinkPatch,
  LinkSettings,
  MadeLink,
  NewLink,
  PushAnswer,
  PushBody,
} from '@lucky-needle/core/model';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { FAMILIES, randomThermistorTruth, type WorldTruth } from '@lucky-needle/core/simulate';
import { isBelow } from '../capture/followedPath.ts';
import { newToken, tokenFits, tokenHashOf } from '../capture/linkToken.ts';
import type { LinkRunner } from '../capture/linkRunner.ts';
import { ProblemError, notFound } from '../http/problem.ts';
import type { Bench } from './bench.ts';

const NAMES: Readonly<Record<LinkSettings['kind'], string>> = {
  simulated: 'Simulated gadget',
  push: 'Gadget over HTTP',
  mqtt: 'MQTT topic',
  file: 'Log file',
  serial: 'Serial cable',
};

/** Whether a gadget shows a token to send: by pushing, or to the bench's own broker. */
const needsToken = (settings: LinkSettings) =>
  settings.kind === 'push' || (settings.kind === 'mqtt' && settings.broker === null);

/** Links of gadgets: made, changed, cut, and fed by gadgets that send by themselves. */
export function linkService(bench: Bench) {
  const { tables } = bench;

  async function gadgetOf(id: string): Promise<Gadget> {
    const gadget = await tables.gadgets.find(id);
    if (!gadget) throw notFound('gadget', id);
    return gadget;
  }

  function runnerOf(gadgetId: string): LinkRunner {
    const runner = bench.links.of(gadgetId);
    if (!runner)
      throw new ProblemError(
        404,
        'no-link',
        'No link',
        'This gadget has no link.',
        'Set one up on the Link page.',
      );
    return runner;
  }

  /** What a simulated world was made to do stands in the run that goes on, as marks: the truth that alarms are tried against. */
  async function markTruth(runner: LinkRunner, happened: readonly string[]): Promise<void> {
    const { recorder } = runner;
    if (!recorder || recorder.newestS === null || happened.length === 0) return;
    const timeS = recorder.newestS;
    for (const text of happened)
      await tables.recordings.addMarker(recorder.recording.id, { timeS, text, isTruth: true });
    bench.changed(runner.stored.gadgetId, 'recordings');
  }

  async function make(
    gadgetId: string,
    { settings, mapping }: NewLink,
    truth: WorldTruth | null = null,
    name = settings.kind === 'mqtt' ? settings.topic : NAMES[settings.kind],
  ): Promise<MadeLink> {
    const gadget = await gadgetOf(gadgetId);
    if (await tables.links.ofGadget(gadgetId))
      throw new ProblemError(
        409,
        'has-link',
        'Already linked',
        'This gadget already has a link.',
        'Use that link, or remove it first.',
      );
    if (settings.kind === 'file') await checkFile(settings.path);
    const token = needsToken(settings) ? newToken() : null;
    await tables.links.insert({
      id: randomUUID(),
      gadgetId,
      name: name.slice(0, 80),
      settings,
      mapping,
      truth: settings.kind === 'simulated' ? (truth ?? drawTruth(gadget)) : null,
      speed: 1,
      tokenHash: token && tokenHashOf(token),
    });
    await tables.logbook.write(gadgetId, 'hook-up', `Link set up: ${name}.`);
    const runner = (await bench.links.start(gadget))!;
    bench.changed(gadgetId, 'link');
    return { link: runner.link, token };
  }

  /** Only files below the folders that the server was told of, whatever the path looks like. */
  async function checkFile(path: string): Promise<void> {
    const refuse = (detail: string, wayOut: string) =>
      new ProblemError(422, 'cannot-follow', 'File cannot be followed', detail, wayOut, 'settings.path');
    if (!isAbsolute(path) || normalize(path) !== path || path.includes('\u0000'))
      throw refuse(
        `"${path}" is not an absolute path.`,
        'Enter the full path from the root of the disk, without "..".',
      );
    const isAllowed = await isBelow(path, bench.followDirs).catch(() => {
      throw refuse(`The folder ${dirname(path)} does not exist.`, 'Correct the path.');
    });
    if (!isAllowed)
      throw refuse(
        `${path} is outside the folders allowed for log files: ${bench.followDirs.join(', ')}.`,
        'Move the log there, or start the server with LUCKY_NEEDLE_FOLLOW set to its folder.',
      );
  }

  return {
    make,
    runner: runnerOf,

    /** Attaches a simulated gadget with the given hidden truth. */
    attachSimulator: (gadgetId: string, truth: WorldTruth, name: string) =>
      make(gadgetId, { settings: { kind: 'simulated' }, mapping: null }, truth, name),

    async patch(gadgetId: string, patch: LinkPatch): Promise<LinkRunner> {
      const runner = runnerOf(gadgetId);
      if (patch.settings && patch.settings.kind !== runner.stored.settings.kind)
        throw new ProblemError(
          422,
          'other-kind',
          'Link type cannot be changed',
          `This link is of type "${runner.stored.settings.kind}"; a link cannot change its type.`,
          'Remove the link and make a new one.',
          'settings.kind',
        );
      if (patch.settings?.kind === 'file') await checkFile(patch.settings.path);
      let happened: readonly string[];
      try {
        happened = runner.change(patch);
      } catch (error) {
        throw new ProblemError(
          422,
          'no-condition',
          'Unknown condition',
          (error as Error).message,
          'Choose one of these.',
          'condition',
        );
      }
      await markTruth(runner, happened);
      const { speed, settings, mapping } = patch;
      await tables.links.update(runner.stored.id, {
        ...(speed === undefined ? {} : { speed }),
        ...(settings === undefined ? {} : { settings }),
        ...(mapping === undefined ? {} : { mapping }),
      });
      if (settings !== undefined) await restart(gadgetId);
      bench.changed(gadgetId, 'link');
      return runnerOf(gadgetId);
    },

    async remove(gadgetId: string): Promise<void> {
      const runner = runnerOf(gadgetId);
      refuseWhileRecording(runner);
      bench.links.stop(gadgetId);
      await tables.links.remove(runner.stored.id);
      await tables.logbook.write(gadgetId, 'hook-up', `${runner.stored.name}: link removed.`);
      bench.changed(gadgetId, 'link');
    },

    /** A new token in place of the old one, which no longer works from now on. */
    async renewToken(gadgetId: string): Promise<MadeLink> {
      const { stored } = runnerOf(gadgetId);
      if (!needsToken(stored.settings))
        throw new ProblemError(
          409,
          'no-token',
          'No token',
          'Only a gadget that sends over HTTP or to the built-in MQTT broker needs a token.',
          'Create such a link first.',
        );
      const token = newToken();
      const tokenHash = tokenHashOf(token);
      await tables.links.update(stored.id, { tokenHash });
      runnerOf(gadgetId).useToken(tokenHash);
      await tables.logbook.write(gadgetId, 'hook-up', `${stored.name}: new token created.`);
      return { link: runnerOf(gadgetId).link, token };
    },

    /** Readings that a gadget sends. @throws {ProblemError} 401 without the token of just this link */
    push(linkId: string, authorization: string | undefined, body: PushBody): PushAnswer {
      const token = /^Bearer (.+)$/.exec(authorization ?? '')?.[1] ?? '';
      // From memory: a gadget sends ten times a second, and there are hundreds of them.
      const runner = bench.links.byLink(linkId);
      if (!tokenFits(runner?.stored ?? null, token) || !runner)
        throw new ProblemError(
          401,
          'wrong-token',
          'Not allowed',
          'No link has this token.',
          'Send "Authorization: Bearer …" with the token shown when you created the link, or create a new token.',
        );
      const answer = { accepted: 0, duplicated: 0, late: 0, refused: [] as PushAnswer['refused'] };
      const readings = 'readings' in body ? body.readings : [body];
      readings.forEach(({ t, seq, values }, index) => {
        const timeS = t === undefined ? null : typeof t === 'number' ? t : isoSeconds(t);
        if (timeS !== null && !(timeS >= 0 && isWritableTime(timeS))) {
          const unit = typeof t === 'number' ? STAMP_WORDS[stampScale(t)] : undefined;
          const looks =
            unit === undefined || unit === 'seconds' ? '' : ` It looks like ${unit}; send seconds instead.`;
          answer.refused.push({ index, reason: `The time ${JSON.stringify(t)} is not valid.${looks}` });
          return;
        }
        const row = runner.columns.map((c) => values[c] ?? Number.NaN);
        if (!runner.columns.some((c) => c in values)) {
          answer.refused.push({
            index,
            reason: `The reading has none of the columns ${runner.columns.join(', ')}; it has ${Object.keys(values).slice(0, 8).join(', ') || 'nothing'}.`,
          });
          return;
        }
        const outcome = runner.takeReading({ timeS, sequence: seq ?? null, values: row });
        if (outcome === 'accepted') answer.accepted++;
        else if (outcome === 'late') answer.late++;
        else answer.duplicated++;
      });
      return answer;
    },

    /** Text that a page reads from a cable. */
    takeText(gadgetId: string, text: string): void {
      const runner = runnerOf(gadgetId);
      if (runner.stored.settings.kind !== 'serial')
        throw new ProblemError(
          409,
          'no-cable',
          'Not a serial link',
          `This link is of type "${runner.stored.settings.kind}" and does not accept text from a page.`,
          'Set up a serial cable link first.',
        );
      runner.takeText(text);
    },
  };

  async function restart(gadgetId: string): Promise<void> {
    const runner = runnerOf(gadgetId);
    const { recorder } = runner;
    const gadget = await gadgetOf(gadgetId);
    const next = await bench.links.start(gadget);
    if (next) next.recorder = recorder;
  }
}

function refuseWhileRecording(runner: LinkRunner): void {
  if (!runner.recorder) return;
  throw new ProblemError(
    409,
    'recording',
    'Recording in progress',
    `"${runner.recorder.recording.name}" is being recorded from this link.`,
    'Stop the recording first.',
  );
}

/** A simulated gadget for the template's family; a thermistor's has hidden constants about those of the gadget's own line. */
function drawTruth(gadget: Gadget): WorldTruth {
  const template = TEMPLATES.find((t) => t.id === gadget.template);
  const family = FAMILIES.find((f) => f.family === template?.family);
  if (!family) {
    throw new ProblemError(
      422,
      'cannot-simulate',
      'Cannot simulate this gadget',
      'This gadget was not created from a template with a simulation.',
      'Create a gadget from a template to get a simulated board.',
    );
  }
  const seed = randomInt(1, 2 ** 31);
  const line = gadget.channels[0]!.line;
  const param = (kind: string, name: string) => line.stages.find((s) => s.kind === kind)?.params[name];
  const r0 = param('thermistor-beta', 'r0Ohm');
  if (r0 === undefined) return family.draw(seed);
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
    seed,
  );
}
