import { describe, expect, it } from 'vitest';
import { familyGadget } from './support/familyGadget.ts';
import { gadgetProof, SHELF, TEMPLATES } from '../src/plan/index.ts';
import { wantedStudies } from '../src/plan/wantedStudies.ts';
import type { JudgedStudy } from '../src/model/index.ts';
import type { Claim } from '../src/prove/index.ts';
import { byWeight, proofSummary } from '../src/prove/index.ts';

const AT = Date.parse('2026-02-01T00:00:00Z');

const claim = (id: Claim['id'], state: Claim['state'], by: Claim['by'] = null): Claim => ({
  id,
  title: `the ${id}`,
  state,
  sentence: '',
  next: by ? `Do ${id}.` : '',
  by,
});
const of = (claims: readonly Claim[], name: string | null = null) =>
  claims.map((c) => ({ channelId: name ?? 'c', channelName: name, claim: c }));

describe('a proof in a few words', () => {
  it('says all, and nothing to do, where all is shown', () => {
    expect(proofSummary(of([claim('check', 'pass'), claim('rate', 'pass')]))).toEqual({
      shown: 2,
      of: 2,
      failed: false,
      sentence: 'All 2 claims passed.',
      next: null,
    });
  });

  it('calls what fails weaker than what is not shown, and then goes by weight', () => {
    const open = [claim('rate', 'not shown', 'link'), claim('check', 'not shown', 'check point')];
    expect(proofSummary(of(open)).sentence).toBe('0 of 2 claims passed; weakest: “the check”.');
    const failing = proofSummary(of([...open, claim('noise', 'fail', 'line')], 'Door'));
    expect(failing.sentence).toBe('0 of 3 claims passed, 1 failed; weakest: “the noise” (Door).');
    expect(failing.failed).toBe(true);
    expect(
      [claim('rate', 'pass'), claim('noise', 'pass'), claim('check', 'pass')].toSorted(byWeight)[0]!.id,
    ).toBe('check');
  });

  it('has the link brought up first, then what bears on most', () => {
    const open = [
      claim('check', 'not shown', 'check point'),
      claim('budget', 'not shown', 'true-up'),
      claim('span', 'not shown', 'true-up'),
    ];
    expect(proofSummary(of(open)).next).toEqual({
      by: 'true-up',
      claimId: 'budget',
      channelId: 'c',
      text: 'Do budget. This affects “the budget” and “the span”.',
      settles: 2,
    });
    expect(proofSummary(of([...open, claim('rate', 'not shown', 'link')])).next!.by).toBe('link');
  });
});

describe('what is next', () => {
  it('bears on no figure that is made of something else', () => {
    const { next } = proofSummary(
      of([
        claim('budget', 'fail', 'line'),
        claim('figure-rise', 'fail', 'line'),
        claim('figure-up', 'fail', 'line'),
      ]),
    );
    expect(next).toMatchObject({
      claimId: 'budget',
      settles: 1,
      text: 'Do budget. This affects “the budget”.',
    });
  });
});

describe('a gadget as it comes from its template', () => {
  it.each(TEMPLATES.filter((t) => t.family !== null).map((t) => [t.id, t.family!] as const))(
    '%s: shows nothing yet, and says what to do',
    (_id, family) => {
      const gadget = familyGadget(family);
      const none = { columns: [], rows: [], now: {}, figures: {} };
      const proof = gadgetProof(gadget, [], [], null, none, [], SHELF, AT)!;
      expect(proof.of).toBeGreaterThan(0);
      expect([proof.shown, proof.failed]).toEqual([0, false]);
      expect(proof.next!.by).toBe('link');
      // What is asked may be a figure of a channel that reads another quantity.
      for (const { proof: of } of proof.channels)
        if (typeof of === 'string') expect(of).toMatch(/a result calculated from these readings/);
      // Every claim that is not shown says where that is done.
      for (const { proof: of } of proof.channels)
        if (typeof of !== 'string')
          for (const c of of.claims) expect([c.by === null, c.next === '']).toEqual([false, false]);
      const linked = gadgetProof(gadget, [], [], gadget.sampleRateHz, none, [], SHELF, AT)!;
      expect(linked.failed).toBe(false);
      expect(linked.next!.by).not.toBe('link');
    },
  );

  it('is judged by the rate at which readings really come, not by the one that was meant', () => {
    const probe = { slot: 'temperature', partId: 'ntc-bead-10k', converterId: null, reason: '' };
    const board = { slot: 'board', partId: 'small-8-bit', converterId: null, reason: '' };
    const gadget = { ...familyGadget(14), picks: [probe, board] };
    const none = { columns: [], rows: [], now: {}, figures: {} };
    const [silent, quick, slow] = [null, 10, 0.2].map((hz) =>
      gadgetProof(gadget, [], [], hz, none, [], SHELF, AT)!,
    );
    expect(quick!.shown).toBeGreaterThan(silent!.shown);
    expect(slow!.failed).toBe(true);
    expect(slow!.shown).toBeLessThan(quick!.shown);
  });

  it('has no proof without a brief', () => {
    expect(
      gadgetProof(
        { ...familyGadget(1), brief: null },
        [],
        [],
        null,
        { columns: [], rows: [], now: {}, figures: {} },
        [],
        SHELF,
        AT,
      ),
    ).toBeNull();
  });

  it('wants a count that the brief asks for to be tried, by hand and with nothing to count', () => {
    const gadget = familyGadget(3);
    const wanted = wantedStudies(gadget, []);
    expect(wanted.map((w) => w.claim.title)).toEqual([
      'Counts correctly, Strokes since reset of Shaker',
      'No false counts, Strokes since reset of Shaker',
    ]);
    expect(wanted.every((w) => w.claim.state === 'not shown' && w.claim.by === 'new study')).toBe(true);
    const begun = (kind: string, figureId: string) =>
      ({ study: { kind, channelId: 'shake', figureId } }) as unknown as JudgedStudy;
    expect(wantedStudies(gadget, [begun('counting', 'count')]).map((w) => w.claim.id)).toEqual([
      'study-wanted-false-triggers-count',
    ]);
    // Of another figure it shows nothing of this one.
    expect(wantedStudies(gadget, [begun('counting', 'cadence')])).toHaveLength(2);
    expect(wantedStudies(familyGadget(1), [])).toEqual([]);
  });
});
