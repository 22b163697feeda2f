import type { LinkFaults } from '@lucky-needle/core/model';
import { seededRandom } from '@lucky-needle/core/numerics';
import {
  boardHeader,
  boardLine,
  createWorld,
  type Instrument,
  type World,
  type WorldTruth,
} from '@lucky-needle/core/simulate';
import type { LinkSource, SimulatedControls } from './source.ts';

const TICK_MS = 40;
const NO_FAULTS: LinkFaults = { dropOuts: 0, stuck: null, noise: 0 };
/** After a pause of the whole process at most this much simulated time is caught up. */
const MAX_CATCH_UP_S = 2;

/**
 * A made-up board: steps its world on a timer and prints text lines, as a board on a cable would. Unplugged, its world
 * and its clock go on, but nothing comes through.
 */
export class SimulatedBoard implements LinkSource, SimulatedControls {
  readonly world: World;
  readonly problem = null;
  speed: number;
  plugged = true;
  faults: LinkFaults = NO_FAULTS;
  private readonly random = seededRandom(1);
  private held: number[] | null = null;
  private readonly rateHz: number;
  private readonly print: (text: string) => void;
  private readonly timer: NodeJS.Timeout;
  private timeS = 0;
  private owedS = 0;
  private lastTick = performance.now();

  constructor(truth: WorldTruth, rateHz: number, speed: number, print: (text: string) => void) {
    this.world = createWorld(truth);
    this.rateHz = rateHz;
    this.speed = speed;
    this.print = print;
    print(`${boardHeader(this.world.columns)}\r\n`);
    this.timer = setInterval(() => this.tick(), TICK_MS);
  }

  get simulated(): SimulatedControls {
    return this;
  }

  get conditions() {
    return this.world.conditions.map(({ id, title }) => ({ id, title }));
  }

  get condition(): string {
    return this.world.condition;
  }

  setCondition(id: string): void {
    this.world.setCondition(id);
  }

  instruments(): Instrument[] {
    return this.world.instruments();
  }

  stop(): void {
    clearInterval(this.timer);
  }

  private tick(): void {
    const now = performance.now();
    const elapsedS = ((now - this.lastTick) / 1000) * this.speed;
    this.lastTick = now;
    this.owedS += Math.min(elapsedS, MAX_CATCH_UP_S * this.speed);
    const period = 1 / this.rateHz;
    let text = '';
    while (this.owedS >= period) {
      this.owedS -= period;
      this.timeS += period;
      const counts = this.world.step(period);
      text += this.throughFaults(counts);
    }
    if (text && this.plugged) this.print(text);
  }

  /** The line as it leaves the board, or what a fault makes of it. */
  private throughFaults(counts: number[]): string {
    const { dropOuts, stuck, noise } = this.faults;
    const at = stuck === null ? -1 : this.world.columns.indexOf(stuck);
    this.held = at < 0 ? null : (this.held ?? [...counts]);
    if (dropOuts > 0 && this.random.uniform() < dropOuts) return '';
    if (noise > 0 && this.random.uniform() < noise)
      return `${String.fromCharCode(...Array.from({ length: 12 }, () => 33 + Math.floor(220 * this.random.uniform())))}\r\n`;
    const values = counts.map((v, k) => (k === at ? this.held![k]! : v));
    return `${boardLine(this.timeS, values)}\r\n`;
  }
}
