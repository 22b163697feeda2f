import { randomUUID } from 'node:crypto';
import { alarmFault } from '@lucky-needle/core/alarm';
import { compileLine, LineError, stageKind } from '@lucky-needle/core/line';
import {
  GADGET_SLOTS,
  type Channel,
  type Gadget,
  type GadgetPatch,
  type GadgetSlot,
  type LogEntry,
  type NewGadget,
  type Part,
} from '@lucky-needle/core/model';
import {
  TEMPLATES,
  alarmInWords,
  cautionTitle,
  briefFaults,
  briefInWords,
  briefOfAsk,
  cannotWatch,
  findPart,
  readoutSpec,
  shelfWith,
  stateInWords,
  statesFault,
  wholeLine,
} from '@lucky-needle/core/plan';
import { createWatchedReadout } from '@lucky-needle/core/reading';
import { ProblemError, notFound, staleVersion } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import { CHOICE_WORDS, listed, lowerFirst } from '@lucky-needle/core/words';

/** How other services change the channels of a gadget: the same checks, and the same lines in the logbook. */
export type PatchChannels = (id: string, version: string, patch: { channels: Channel[] }) => Promise<Gadget>;

/** @param removed told of a gadget that is thrown away, for what others keep of it in memory */
export function gadgetService(bench: Bench, removed: (gadgetId: string) => void) {
  const { tables } = bench;

  async function find(id: string): Promise<Gadget> {
    const gadget = await tables.gadgets.find(id);
    if (!gadget) throw notFound('gadget', id);
    return gadget;
  }

  /** The bench's shelf and the maker's own parts: what picks are looked up on. */
  const shelf = async () => shelfWith((await tables.parts.list()).map((o) => o.part));

  return {
    find,

    async create({ template: templateId, name }: NewGadget, now = bench.now()): Promise<Gadget> {
      const template = TEMPLATES.find((t) => t.id === templateId);
      if (!template) {
        throw new ProblemError(
          422,
          'no-template',
          'Invalid gadget',
          `Unknown template "${templateId}".`,
          `Choose one of ${TEMPLATES.map((t) => t.id).join(', ')}.`,
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
        `Created gadget "${name}" from the template "${template.title}".`,
        now,
      );
      return gadget;
    },

    /** @throws {ProblemError} 412 when the sent version is not the present one, 422 when a section cannot work */
    async patch(id: string, version: string, patch: GadgetPatch, now = bench.now()): Promise<Gadget> {
      const gadget = await find(id);
      if (version !== String(gadget.version)) throw staleVersion(version, gadget.version);
      const next: Gadget = { ...gadget, ...patch, version: gadget.version + 1, updatedAt: now };
      const parts = await shelf();
      checkGadget(gadget, next, parts);
      if (!(await tables.gadgets.update(next))) throw staleVersion(version, (await find(id)).version);
      for (const { step, text } of describeChanges(gadget, next, parts))
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
          'Recording in progress',
          'This gadget is being recorded.',
          'Stop the recording first.',
        );
      }
      bench.links.stop(id);
      await tables.gadgets.setDeleted(id, bench.now());
      removed(id);
    },

    async restore(id: string): Promise<Gadget> {
      if (!(await tables.gadgets.setDeleted(id, null))) throw notFound('gadget', id);
      const gadget = await find(id);
      await bench.links.start(gadget);
      return gadget;
    },
  };
}

/** The rules a schema cannot tell. */
function checkGadget(before: Gadget, gadget: Gadget, parts: readonly Part[]): void {
  const invalid = (field: string, detail: string) =>
    new ProblemError(
      422,
      'invalid-gadget',
      'Not saved',
      detail,
      'Correct this and save again. Nothing was changed.',
      field,
    );
  const ids = gadget.channels.map((c) => c.id);
  if (new Set(ids).size !== ids.length) throw invalid('channels', 'Two channels have the same id.');
  const asks = gadget.brief?.asks ?? [];
  if (new Set(asks.map((a) => a.id)).size !== asks.length)
    throw invalid('brief.asks', 'Two requirements have the same id.');
  asks.forEach((ask, i) => {
    if ((GADGET_SLOTS as readonly string[]).includes(ask.id))
      throw invalid(
        `brief.asks.${i}.id`,
        `A requirement cannot have the id "${ask.id}": it is reserved for a part slot.`,
      );
    const [fault] = briefFaults(briefOfAsk(gadget.brief!, ask));
    if (fault) throw invalid(`brief.asks.${i}.${fault.field}`, fault.message);
  });
  gadget.channels.forEach((channel, i) => {
    if (gadget.brief && !asks.some((a) => a.id === channel.askId))
      throw invalid(
        `channels.${i}.askId`,
        `${channel.name} belongs to requirement "${channel.askId}", which is not in the brief. Requirements: ${asks.map((a) => a.id).join(', ')}.`,
      );
    try {
      checkFeed(gadget, channel, (detail) => invalid(`channels.${i}.feed`, detail));
      compileLine(wholeLine(gadget, channel, []), { sampleRateHz: gadget.sampleRateHz });
    } catch (error) {
      if (error instanceof LineError)
        throw invalid(
          `channels.${i}.line${error.stage ? `.${error.stage.id}` : ''}`,
          `${channel.name}: ${error.message}`,
        );
      throw error;
    }
  });
  const watched = createWatchedReadout(readoutSpec(gadget, [], parts, gadget.sampleRateHz));
  watched.problems.forEach((problem, i) => {
    const old = before.channels.find((c) => c.id === gadget.channels[i]!.id);
    // A line that was changed may leave what counts on it for later: its page says so.
    const isNew = !old || countedOf(old) !== countedOf(gadget.channels[i]!);
    if (problem && isNew)
      throw invalid(`channels.${i}.counts.${problem.id}`, `${gadget.channels[i]!.name}: ${problem.message}`);
  });
  checkPicks(before, gadget, parts, invalid);
  if (gadget.face) {
    // A display of one's own that has left the shelf may stay, like any pick.
    if (
      gadget.face.displayId !== before.face?.displayId &&
      !findPart(parts, 'display', gadget.face.displayId)
    )
      throw invalid('face.displayId', `The shelf has no display "${gadget.face.displayId}".`);
  }
  checkAlarms(before, gadget, invalid);
  gadget.channels.forEach((channel, i) => {
    const old = before.channels.find((c) => c.id === channel.id);
    if (JSON.stringify(old?.states ?? []) === JSON.stringify(channel.states ?? [])) return;
    const fault = statesFault(gadget, channel);
    if (fault) throw invalid(`channels.${i}.states`, `${channel.name}: ${fault}`);
  });
}

/** What an alarm looks at must be there, in a unit that it can be told in; what is left behind by a line may stay. */
function checkAlarms(
  before: Gadget,
  gadget: Gadget,
  invalid: (field: string, detail: string) => ProblemError,
): void {
  const rules = gadget.alarms ?? [];
  if (new Set(rules.map((r) => r.id)).size !== rules.length)
    throw invalid('alarms', 'Two alarms have the same id.');
  rules.forEach((rule, i) => {
    const was = before.alarms?.find((r) => r.id === rule.id);
    if (was && JSON.stringify(was) === JSON.stringify(rule)) return;
    const fault = alarmFault(rule) ?? cannotWatch(gadget, rule);
    if (fault) throw invalid(`alarms.${i}`, `${rule.name}: ${fault}`);
  });
}

/** What a channel goes on from must be there, and must not go on from it. */
function checkFeed(gadget: Gadget, channel: Channel, invalid: (detail: string) => ProblemError): void {
  const seen = [channel.id];
  for (let now: Channel | undefined = channel; now?.feed;) {
    const { channelId, stageId }: NonNullable<Channel['feed']> = now.feed;
    const parent: Channel | undefined = gadget.channels.find((c) => c.id === channelId);
    if (!parent) throw invalid(`${now.name} continues from channel "${channelId}", which does not exist.`);
    if (stageId !== null && !parent.line.stages.some((s) => s.id === stageId))
      throw invalid(`${now.name} continues from stage "${stageId}", which ${parent.name} does not have.`);
    if (seen.includes(parent.id)) throw invalid(`${channel.name} would continue from itself.`);
    seen.push(parent.id);
    now = parent;
  }
}

/** New picks must lie on the shelf; a pick whose part has left it since may stay. */
function checkPicks(
  before: Gadget,
  gadget: Gadget,
  parts: readonly Part[],
  invalid: (field: string, detail: string) => ProblemError,
): void {
  const slots = new Set<string>();
  gadget.picks.forEach((pick, i) => {
    if (slots.has(pick.slot))
      throw invalid(`picks.${i}.slot`, `Two parts are picked for slot "${pick.slot}".`);
    slots.add(pick.slot);
    const kind = (GADGET_SLOTS as readonly string[]).includes(pick.slot)
      ? (pick.slot as GadgetSlot)
      : 'sensor';
    if (kind === 'sensor' && gadget.brief && !gadget.brief.asks.some((a) => a.id === pick.slot))
      throw invalid(
        `picks.${i}.slot`,
        `A part is picked for requirement "${pick.slot}", which is not in the brief.`,
      );
    const old = before.picks.find((k) => k.slot === pick.slot);
    if (pick.partId !== old?.partId && !findPart(parts, kind, pick.partId))
      throw invalid(`picks.${i}.partId`, `The shelf has no ${kind} "${pick.partId}".`);
    if (
      pick.converterId !== null &&
      pick.converterId !== old?.converterId &&
      !findPart(parts, 'converter', pick.converterId)
    )
      throw invalid(`picks.${i}.converterId`, `The shelf has no converter "${pick.converterId}".`);
  });
}

function describeChanges(
  before: Gadget,
  after: Gadget,
  parts: readonly Part[],
): { step: LogEntry['step']; text: string }[] {
  const changed = (key: keyof Gadget) => JSON.stringify(before[key]) !== JSON.stringify(after[key]);
  const entries: { step: LogEntry['step']; text: string }[] = [];
  if (changed('name')) entries.push({ step: 'workshop', text: `Gadget renamed to "${after.name}".` });
  if ((changed('brief') || changed('place')) && after.brief) {
    entries.push({
      step: 'brief',
      text: `Brief: ${briefInWords(after.brief)}; ${after.place.name}, ${after.place.elevationM} m.`,
    });
  }
  const titleOf = (id: string) => parts.find((p) => p.id === id)?.title ?? id;
  for (const pick of after.picks) {
    const old = before.picks.find((k) => k.slot === pick.slot);
    if (JSON.stringify(old) === JSON.stringify(pick)) continue;
    const ask = after.brief?.asks.find((a) => a.id === pick.slot);
    entries.push({
      step: 'pick',
      text: `Picked ${titleOf(pick.partId)}${pick.converterId ? ` with ${titleOf(pick.converterId)}` : ''} for ${ask ? lowerFirst(ask.quantity) : `the ${pick.slot}`}.${pick.reason ? ` Reason: ${pick.reason}` : ''}`,
    });
  }
  for (const old of before.picks)
    if (!after.picks.some((k) => k.slot === old.slot))
      entries.push({ step: 'pick', text: `Removed ${titleOf(old.partId)}.` });
  if (changed('hookup') && after.hookup) {
    const byHand = after.hookup.pins.map((p) => p.pin).join(', ');
    entries.push({
      step: 'hook-up',
      text: `Hook-up: ${byHand ? `pins ${byHand} set manually` : 'all pins assigned automatically'}${after.hookup.duty < 1 ? `; awake ${Math.round(after.hookup.duty * 100)} % of the time` : ''}.`,
    });
  }
  const read = after.cautionsRead.filter((id) => !before.cautionsRead.includes(id));
  if (read.length > 0)
    entries.push({
      step: 'hook-up',
      text: `Safety notes read: ${listed(read.map((id) => lowerFirst(cautionTitle(id))))}.`,
    });
  for (const channel of after.channels) {
    const old = before.channels.find((c) => c.id === channel.id);
    if (old && JSON.stringify(old.line) !== JSON.stringify(channel.line)) {
      entries.push({
        step: 'line',
        text: `${channel.name}: signal line changed (${describeLineChange(old.line.stages, channel.line.stages)}).`,
      });
    }
    if (old && countedOf(old) !== countedOf(channel))
      entries.push({ step: 'line', text: countedInWords(channel) });
    if (!old) entries.push({ step: 'line', text: `Channel ${channel.name} added.` });
    const { states = [] } = channel;
    if (old && JSON.stringify(old.states ?? []) !== JSON.stringify(states))
      entries.push({
        step: 'face',
        text:
          states.length === 0
            ? `${channel.name}: shown as a number only.`
            : `${channel.name}: words set for readings: ${states.map(stateInWords).join(', ')}.`,
      });
  }
  if (changed('face') && after.face)
    entries.push({
      step: 'face',
      text:
        before.face?.displayId === after.face.displayId
          ? 'Display layout changed.'
          : `Display: ${titleOf(after.face.displayId)}.`,
    });
  const alarms = after.alarms ?? [];
  for (const rule of alarms) {
    const was = before.alarms?.find((r) => r.id === rule.id);
    if (JSON.stringify(was) !== JSON.stringify(rule))
      entries.push({ step: 'face', text: `Alarm “${rule.name}”: ${alarmInWords(rule)}.` });
  }
  for (const { id, name } of before.alarms ?? [])
    if (!alarms.some((r) => r.id === id)) entries.push({ step: 'face', text: `Alarm “${name}” deleted.` });
  return entries;
}

const countedOf = ({ watches = [], figures = [], shows = null }: Channel) =>
  JSON.stringify([watches, figures, shows]);

function countedInWords({ name, watches = [], figures = [], shows = null }: Channel): string {
  const counts = watches.map((w) => w.name).join(', ') || 'none';
  const shown = figures.find((f) => f.id === shows)?.name ?? 'the reading';
  return `${name}: events: ${counts}; on the display: ${shown}${figures.length > 0 ? `; results: ${figures.map((f) => f.name).join(', ')}` : ''}.`;
}

type Stages = Gadget['channels'][number]['line']['stages'];

function describeLineChange(before: Stages, after: Stages): string {
  const parts: string[] = [];
  for (const stage of after) {
    const old = before.find((s) => s.id === stage.id);
    if (!old) parts.push(`${titleOfStage(stage)} added`);
    else {
      if (old.off !== stage.off) parts.push(`${titleOfStage(stage)} switched ${stage.off ? 'off' : 'on'}`);
      for (const [name, value] of Object.entries(stage.params)) {
        if (old.params[name] !== value)
          parts.push(
            `${titleOfStage(stage)}, ${titleOfParam(stage, name)}: ${paramInWords(old.params[name])} to ${paramInWords(value)}`,
          );
      }
    }
  }
  for (const old of before)
    if (!after.some((s) => s.id === old.id)) parts.push(`${titleOfStage(old)} removed`);
  return parts.join('; ') || 'stages reordered';
}

type Stage = Stages[number];
const titleOfStage = (stage: Stage) => stageKind(stage.kind)?.title ?? stage.kind;
const titleOfParam = (stage: Stage, name: string) =>
  lowerFirst(
    (stageKind(stage.kind)?.params.properties[name] as { title?: string } | undefined)?.title ?? name,
  );
const paramInWords = (value: unknown) =>
  typeof value === 'string' ? (CHOICE_WORDS[value] ?? (value || 'none')) : String(value ?? 'none');
