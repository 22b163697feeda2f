import type { Brief, FaceSpec, Hookup, Pick } from '@lucky-needle/core/model';
import { pick } from './pick.ts';

export interface MillGadget {
  readonly family: number;
  readonly template: string;
  readonly name: string;
  readonly place: string;
  readonly brief: Partial<Brief>;
  readonly picks: readonly Pick[];
  readonly hookup?: Partial<Hookup>;
  /** What stands in big figures, and what is drawn with it. */
  readonly face: Omit<FaceSpec, 'displayId'>;
}

/** The mill's other gadgets beside the kiln: what their makers asked for, what they picked, and what they turned down for which reason. */
export const MILL_GADGETS: readonly MillGadget[] = [
  {
    family: 1,
    template: 'gas-watch',
    name: 'Grain-cellar air monitor',
    place: 'grain cellar',
    brief: {
      budget: 60,
      readyMade: 320,
      note: 'Shows when to ventilate the cellar. It is not a life-safety alarm: a certified gas detector hangs next to it.',
    },
    face: { bigChannelId: 'ammonia', look: 'trend' },
    picks: [
      pick('ferment', 'heated-ferment', 'Inexpensive, and the cellar has a socket to power its heater.'),
      pick(
        'ammonia',
        'heated-ammonia',
        'The electrochemical cell needs a serial port, and the board’s console already uses it.',
      ),
      pick(
        'solvent',
        'heated-solvent',
        'The photo-ionisation module costs more than the whole budget and does not tolerate dust.',
      ),
      pick('board', 'radio-32-bit', 'Three analog pins that still work while the radio is on.'),
      pick(
        'display',
        'oled-128x64',
        'Only two I2C wires; a display with nine wires would leave no free pins.',
      ),
      pick(
        'supply',
        'wall-5v',
        'The heaters alone draw half an ampere: a 9 V block would be empty within an hour.',
      ),
      pick('sounder', 'buzzer-active', 'Works without a network.'),
    ],
    hookup: { extras: [{ partId: 'capacitor-470u', quantity: 1, owned: 1, secondHand: 1 }] },
  },
  {
    family: 2,
    template: 'crossing-timer',
    name: 'Duck-race finish gate',
    place: 'mill race',
    brief: { budget: 45, note: 'Timed from the start bell to the rope. The first beak across wins.' },
    face: { bigChannelId: 'gate', look: 'auto' },
    picks: [
      pick('race', 'ultrasonic-sealed', 'Tolerates spray; the time-of-flight ranger is blinded by sunlight.'),
      pick('board', 'small-8-bit', 'Runs at 5 V, like the ranger.'),
      pick('display', 'character-16x2', 'Reflective; an OLED cannot be read in sunlight.'),
      pick('supply', 'nickel-4aa', 'Feeds 4.8 V directly to the board and lasts the whole race day.'),
    ],
  },
  {
    family: 3,
    template: 'motion-counter',
    name: 'Sieve-shaker stroke counter',
    place: 'bolting floor',
    brief: { budget: 50, note: 'Sieving one sack takes a thousand strokes.' },
    face: { bigChannelId: 'shake', look: 'bar' },
    picks: [
      pick(
        'strokes',
        'axes-16g',
        'Gives raw counts; the chip with a built-in counter only recognises walking steps.',
      ),
      pick('board', 'tiny-32-bit', 'Runs for a week on one cell.'),
      pick('display', 'memory-144x168', 'Draws almost no current.'),
      pick('supply', 'lithium-cell', 'Four AA cells would also work, but weigh more on the shaker.'),
    ],
  },
  {
    family: 4,
    template: 'ac-power',
    name: 'Mill generator power',
    place: 'wheel house',
    brief: {
      budget: 75,
      readyMade: 210,
      note: 'The speed of the wheel sets the frequency: 35 to 50 Hz.',
    },
    face: { bigChannelId: 'v', look: 'dial' },
    picks: [
      pick('volts', 'divider-biased', 'At extra-low voltage, no transformer is needed.'),
      pick(
        'amps',
        'split-core-5a',
        'Clips on without cutting a wire; the shunt monitor would average out the waveform.',
      ),
      pick('board', 'fast-32-bit', 'Reads both columns two thousand times per second, with time to spare.'),
      pick('display', 'oled-128x64', 'Easy to read indoors, and the I2C bus is there anyway.'),
      pick('supply', 'wall-5v', 'Keeps running when the generator stops.'),
    ],
  },
  {
    family: 5,
    template: 'beat-rate',
    name: 'Tower-clock pendulum beat',
    place: 'clock tower',
    brief: { budget: 95, note: 'The clock loses half a minute per week, and nobody knows when.' },
    face: { bigChannelId: 'beat', look: 'trend' },
    picks: [
      pick(
        'beats',
        'reflex-pair',
        'Follows every swing; the digital light sensor reads only ten times per second.',
      ),
      pick('board', 'fast-32-bit', 'Stores two days of beats on its memory card.'),
      pick('display', 'memory-144x168', 'Readable by torchlight.'),
      pick('supply', 'lead-12v', 'Left over from the old lighting.'),
    ],
    hookup: { extras: [{ partId: 'lead-12v', quantity: 1, owned: 1, secondHand: 1 }] },
  },
  {
    family: 6,
    template: 'impact-peak',
    name: 'Trip-hammer impact meter',
    place: 'forge',
    brief: { budget: 90, note: 'Which cam, lift and iron give a hit that shapes without cracking?' },
    face: { bigChannelId: 'blow', look: 'auto' },
    picks: [
      pick(
        'blow',
        'load-cell-200kg',
        'A converter with 10 readings per second would miss most impacts.',
        'bridge-fast-24',
      ),
      pick('board', 'tiny-32-bit', 'Small enough to fit on the side of the anvil.'),
      pick('display', 'oled-128x64', 'Readable in the shade of the forge.'),
      pick('supply', 'lithium-cell', 'Lasts more than a day.'),
    ],
  },
  {
    family: 7,
    template: 'absorbance',
    name: 'Dye-vat colour checker',
    place: 'dye house',
    brief: { budget: 60, readyMade: 480, note: 'Is the vat still strong enough for another bolt of cloth?' },
    face: { bigChannelId: 'strength', look: 'auto' },
    picks: [
      pick(
        'dye',
        'spectral-detector',
        'Reads all five lamps with one chip, in raw counts; the photodiode only reaches an absorbance of 1.3.',
      ),
      pick('board', 'tiny-32-bit', 'The I2C bus is all the detector needs.'),
      pick('display', 'oled-128x64', 'Behind the window of the box, away from the steam.'),
      pick('supply', 'wall-5v', 'Can stay in the dry corner.'),
    ],
  },
  {
    family: 8,
    template: 'ride-recorder',
    name: 'Sack-hoist ride recorder',
    place: 'hoist shaft',
    brief: { budget: 80, note: 'How rough is the ride for sacks, and how rough would it be for a person?' },
    face: { bigChannelId: 'z', look: 'rows' },
    picks: [
      pick(
        'ride',
        'axes-hoist',
        'Measures up to 16 g, so a drop is not clipped; the analog chip only reaches 3 g.',
      ),
      pick('board', 'fast-32-bit', 'Records to its own memory card.'),
      pick('display', 'oled-128x64', 'Shows the peaks at a glance.'),
      pick('supply', 'lithium-2s', 'Lasts for a day of lifts.'),
    ],
  },
  {
    family: 9,
    template: 'cell-bench',
    name: 'Lantern-cell bench',
    place: 'lamp room',
    brief: { budget: 55, readyMade: 70, note: 'Which of the forty lantern cells are still good?' },
    face: { bigChannelId: 'v', look: 'rows' },
    picks: [
      pick('volts', 'divider-cell', 'The ADC of the 8-bit board would only resolve ten millivolts.'),
      pick(
        'amps',
        'shunt-amplifier',
        'Measures current in both directions; the Hall module drifts more than the brief allows.',
      ),
      pick('warmth', 'silicon-analog', 'Glued to the cell holder.'),
      pick('board', 'tiny-32-bit', 'Its 2.5 V reference suits all three inputs.'),
      pick('display', 'oled-128x64', 'Uses the I2C bus.'),
      pick('supply', 'wall-5v', 'Can charge cells as well.'),
      pick('sounder', 'piezo-passive', 'Beeps when a cell is done.'),
    ],
    hookup: {
      extras: [
        { partId: 'cell-holder', quantity: 1, owned: 0, secondHand: 1 },
        { partId: 'resistor-power', quantity: 2, owned: 1, secondHand: 1 },
        { partId: 'heatsink-small', quantity: 1, owned: 0, secondHand: 1 },
      ],
    },
  },
  {
    family: 10,
    template: 'rotation',
    name: 'Millstone spindle speed',
    place: 'stone floor',
    brief: { budget: 40, note: 'Too slow, and the flour is coarse; too fast, and it smells burnt.' },
    face: { bigChannelId: 'spindle', look: 'dial' },
    picks: [
      pick(
        'speed',
        'hall-switch',
        'Flour dust blinds the reflective sensor, and vibration makes the reed switch chatter.',
      ),
      pick('board', 'tiny-32-bit', 'Runs for a week of milling on four cells.'),
      pick('display', 'oled-128x64', 'Readable on the dim stone floor.'),
      pick('supply', 'nickel-4aa', 'Recharged every Sunday.'),
    ],
  },
  {
    family: 11,
    template: 'sprint',
    name: 'Ferry-punt sprint',
    place: 'landing stage',
    brief: { budget: 80, note: 'Does the new pole make the punt faster, or is it the ferryman?' },
    face: { bigChannelId: 'punt', look: 'auto' },
    picks: [
      pick('speed', 'fix-10hz', 'One fix per second is too slow; the USB receiver needs a USB host.'),
      pick('board', 'tiny-32-bit', 'Has a spare serial port.'),
      pick('display', 'memory-144x168', 'The most readable in full sun.'),
      pick('supply', 'nickel-4aa', 'Lasts more than an afternoon.'),
    ],
  },
  {
    family: 12,
    template: 'heading',
    name: 'Wind-vane heading',
    place: 'roof ridge',
    brief: { budget: 70, note: 'Sounds an alarm when the wind turns towards the shutters.' },
    face: { bigChannelId: 'vane', look: 'rose' },
    picks: [
      pick('heading', 'magnetic-and-gravity', 'The two-axis chip only works when level, and the vane leans.'),
      pick('board', 'tiny-32-bit', 'Draws only about a dozen milliamperes.'),
      pick('display', 'memory-144x168', 'An OLED is hard to read in sunlight.'),
      pick('supply', 'lead-12v', 'Lasts for weeks.'),
      pick('sounder', 'piezo-passive', 'Contains no magnet, unlike the buzzer.'),
    ],
  },
  {
    family: 13,
    template: 'displacement',
    name: 'Sacking-cloth length roller',
    place: 'sack loft',
    brief: { budget: 45, note: 'Sacks are cut to 1.2 m; one bolt makes fifty.' },
    face: { bigChannelId: 'cloth', look: 'auto' },
    picks: [
      pick('length', 'image-shift-chip', 'A desktop mouse contains the same chip, but needs a USB host.'),
      pick('board', 'tiny-32-bit', 'Has SPI pins.'),
      pick('display', 'oled-128x64', 'Bright enough indoors, and needs only two wires.'),
      pick('supply', 'wall-5v', 'There is a socket next to the table.'),
    ],
  },
];
