import { describe, expect, it } from 'vitest';
import { besideOthers, TEMPLATES } from '../src/plan/index.ts';

const gadget = { ...TEMPLATES.find((t) => t.id === 'gas-watch')!.make() };
const ammonia = gadget.channels.find((c) => c.id === 'ammonia')!;
const told = (values: Record<string, number>, channel = ammonia) =>
  besideOthers(gadget, channel, (id) => (id in values ? { value: values[id]!, unit: 'ppm' } : null));

describe('an element that may only show its neighbour’s gas', () => {
  it('says so while another reads far more', () => {
    expect(told({ ferment: 120, ammonia: 11.5, solvent: 12 })).toMatch(
      /Fermentation vapour reads 120 ppm.*Ammonia/,
    );
  });

  it('says nothing in clean air, of the one that reads the most, nor while a reading is missing', () => {
    expect(told({ ferment: 8, ammonia: 2, solvent: 5 })).toBeNull();
    expect(told({ ferment: 120, ammonia: 2.1, solvent: 5 })).toBeNull();
    expect(told({ ferment: 10, ammonia: 25, solvent: 5 })).toBeNull();
    expect(told({ ferment: Number.NaN, ammonia: 11 })).toBeNull();
    expect(told({ ferment: 120 })).toBeNull();
  });

  it('says nothing once the others are taken off, nor of what is no element', () => {
    const stage = {
      id: 'less',
      kind: 'less-others',
      params: { channels: 'ferment', own: 1, weights: [-0.1] },
      uncertainty: {},
      off: false,
    };
    const withStage = (off: boolean) => ({
      ...ammonia,
      line: { ...ammonia.line, stages: [...ammonia.line.stages, { ...stage, off }] },
    });
    expect(told({ ferment: 120, ammonia: 11.5 }, withStage(true))).not.toBeNull();
    // What is put right for warmth answers to its neighbours all the same.
    const byWarmth = { ...stage, kind: 'by-surroundings', params: { channels: 'ferment', share: 0, at: 0 } };
    const warm = { ...ammonia, line: { ...ammonia.line, stages: [...ammonia.line.stages, byWarmth] } };
    expect(told({ ferment: 120, ammonia: 11.5 }, warm)).not.toBeNull();
    const put = withStage(false);
    expect(told({ ferment: 120, ammonia: 11.5 }, put)).toBeNull();
    const kiln = TEMPLATES.find((t) => t.id === 'several-temperatures')!.make();
    expect(besideOthers(kiln, kiln.channels[0]!, () => ({ value: 80, unit: 'degC' }))).toBeNull();
  });
});
