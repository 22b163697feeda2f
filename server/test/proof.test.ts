import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Gadget, Link, MadeLink, Problem, ProofAnswer } from '@lucky-needle/core/model';
import { openBench, SIMULATED, until, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const made = async (template: string) =>
  (await bench.call<Gadget>('POST', '/api/gadgets', { template, name: template })).body;
const proofOf = async (id: string) => (await bench.call<ProofAnswer>('GET', `/api/gadgets/${id}/proof`)).body;

describe('what is shown of a brief', () => {
  it('is nothing for a gadget that was just made, and what to do is said', async () => {
    const gadget = await made('several-temperatures');
    const proof = await proofOf(gadget.id);
    expect(proof).toMatchObject({ shown: 0, of: 23, failed: false });
    expect(proof.sentence).toMatch(/^0 of 23 claims passed; weakest: “Accurate at check points” \(/);
    expect(proof.next).toMatchObject({ by: 'link', settles: 7 });
    // Five of each, and of the first three figures that the brief asks for.
    expect(proof.channels.map((c) => c.claims.length)).toEqual([8, 5, 5, 5]);
    expect(proof.channels.map((c) => c.own.of)).toEqual([8, 5, 5, 5]);
    expect(proof.channels[0]!.own.sentence).toMatch(/^0 of 8 claims passed; weakest: “[^”]+”\.$/);
    // By their weight, and nothing was checked yet.
    expect(proof.channels[0]!.claims.at(-1)!.id).toBe('rate');
    expect(proof.channels[0]!.worstCheck).toBeNull();
  });

  it('follows the link, also for lines that cannot be walked back, whose budget is made at rows that came', async () => {
    const gadget = await made('heading');
    await bench.call<MadeLink>('POST', `/api/gadgets/${gadget.id}/link`, SIMULATED);
    await bench.call<Link>('PATCH', `/api/gadgets/${gadget.id}/link`, { speed: 20 });
    const proof = await until(
      () => proofOf(gadget.id),
      (p) => p.next?.by !== 'link' && (p.channels[0]!.budget?.unknown.length ?? 0) > 0,
    );
    const [vane] = proof.channels;
    expect(vane!.claims.find((c) => c.id === 'rate')!.state).toBe('pass');
    expect(vane!.budget).toMatchObject({ unit: 'deg', isNow: true });
    // What nobody stated has no size, gives nothing that is known, and nothing has a share of the whole.
    const { lines, unknown } = vane!.budget!;
    const open = lines.filter((l) => l.halfWidth === null);
    expect(open.map((l) => l.title)).toEqual(unknown);
    expect(open.every((l) => l.gives === null)).toBe(true);
    expect(lines.every((l) => l.share === null)).toBe(true);
    expect(vane!.claims.find((c) => c.id === 'budget')!.state).toBe('not shown');
    expect(proof.next!.by).toBe('true-up');
  });

  it('is refused in words without a brief, and for a gadget that is not there', async () => {
    const gadget = await made('empty');
    const refused = await bench.call<Problem>('GET', `/api/gadgets/${gadget.id}/proof`);
    expect([refused.status, refused.body.code]).toEqual([409, 'no-brief']);
    expect((await bench.call('GET', '/api/gadgets/nobody/proof')).status).toBe(404);
  });
});
