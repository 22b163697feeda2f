import type { Gadget } from '@lucky-needle/core/model';
import type { Tables } from '../db/tables.ts';
import { LinkRunner } from './linkRunner.ts';

/** The links that are running, one a gadget at the most. */
export class Links {
  private readonly runners = new Map<string, LinkRunner>();
  private readonly tables: Tables;

  constructor(tables: Tables) {
    this.tables = tables;
  }

  async startAll(): Promise<void> {
    for (const stored of await this.tables.links.list()) {
      const gadget = await this.tables.gadgets.find(stored.gadgetId);
      if (gadget && !this.runners.has(gadget.id))
        this.runners.set(gadget.id, new LinkRunner(stored, gadget.sampleRateHz));
    }
  }

  async start(gadget: Gadget): Promise<LinkRunner | null> {
    const stored = await this.tables.links.ofGadget(gadget.id);
    if (!stored) return null;
    this.stop(gadget.id);
    const runner = new LinkRunner(stored, gadget.sampleRateHz);
    this.runners.set(gadget.id, runner);
    return runner;
  }

  of(gadgetId: string): LinkRunner | null {
    return this.runners.get(gadgetId) ?? null;
  }

  all(): LinkRunner[] {
    return [...this.runners.values()];
  }

  stop(gadgetId: string): void {
    this.runners.get(gadgetId)?.stop();
    this.runners.delete(gadgetId);
  }

  async stopAll(): Promise<void> {
    for (const runner of this.runners.values()) {
      runner.stop();
      await runner.recorder?.abandon();
    }
    this.runners.clear();
  }
}
