import {
  boardHeader,
  boardLine,
  createWorld,
  type Instrument,
  type World,
  type WorldTruth,
} from '@lucky-needle/core/simulate';

const TICK_MS = 40;
/** After a pause of the whole process at most this much simulated time is caught up. */
const MAX_CATCH_UP_S = 2;

/**
 * A made-up board: steps its world on a timer and prints text lines, as a board on a cable would. Unplugged, its world
 * and its clock go on, but nothing comes through.
 */
export class SimulatedBoard {
  readonly world: World;
  speed: number;
  plugged = true;
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
      text += `${boardLine(this.timeS, counts)}\r\n`;
    }
    if (text && this.plugged) this.print(text);
  }
}
