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
    name: 'Grain-cellar air watch',
    place: 'grain cellar',
    brief: {
      budget: 60,
      readyMade: 320,
      note: 'Tells when to air the cellar. It is no life-safety alarm: a listed detector hangs beside it.',
    },
    face: { bigChannelId: 'ammonia', look: 'trend' },
    picks: [
      pick('ferment', 'heated-ferment', 'Cheap, and the cellar has a socket for its heater.'),
      pick(
        'ammonia',
        'heated-ammonia',
        'The electrochemical cell needs a serial line that the board’s console has taken.',
      ),
      pick(
        'solvent',
        'heated-solvent',
        'The photo-ionisation module costs more than the whole budget and does not bear dust.',
      ),
      pick('board', 'radio-32-bit', 'Three analog pins that work beside the radio.'),
      pick('display', 'oled-128x64', 'Two wires of a bus; a display with nine wires would leave no pins.'),
      pick(
        'supply',
        'wall-5v',
        'Half an ampere for the heaters alone: the 9 V block would be empty within the hour.',
      ),
      pick('sounder', 'buzzer-active', 'Sounds without the network.'),
    ],
    hookup: { extras: [{ partId: 'capacitor-470u', quantity: 1, owned: 1, secondHand: 1 }] },
  },
  {
    family: 2,
    template: 'crossing-timer',
    name: 'Duck-race finish gate',
    place: 'mill race',
    brief: { budget: 45, note: 'From the start bell to the rope: the first beak counts.' },
    face: { bigChannelId: 'gate', look: 'auto' },
    picks: [
      pick('race', 'ultrasonic-sealed', 'Bears spray; the light-flight ranger is blinded by sun.'),
      pick('board', 'small-8-bit', 'Works at the ranger’s 5 V.'),
      pick('display', 'character-16x2', 'Reflective: the self-lit one cannot be read in sun.'),
      pick('supply', 'nickel-4aa', '4.8 V straight into the board, for the whole race day.'),
    ],
  },
  {
    family: 3,
    template: 'motion-counter',
    name: 'Sieve-shaker stroke counter',
    place: 'bolting floor',
    brief: { budget: 50, note: 'A sack takes a thousand strokes.' },
    face: { bigChannelId: 'shake', look: 'bar' },
    picks: [
      pick('strokes', 'axes-16g', 'Raw codes: the chip that counts by itself has a rule for walking.'),
      pick('board', 'tiny-32-bit', 'A week on one cell.'),
      pick('display', 'memory-144x168', 'Draws next to nothing.'),
      pick('supply', 'lithium-cell', 'Four AA cells would do as well, and weigh more on the shaker.'),
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
      note: 'The wheel sets the frequency: 35 to 50 Hz.',
    },
    face: { bigChannelId: 'v', look: 'dial' },
    picks: [
      pick('volts', 'divider-biased', 'Extra-low voltage needs no transformer.'),
      pick(
        'amps',
        'split-core-5a',
        'Clips on without cutting a wire; the shunt monitor averages the wave away.',
      ),
      pick('board', 'fast-32-bit', 'Both columns two thousand times a second with room to spare.'),
      pick('display', 'oled-128x64', 'Indoors no sun bleaches it, and the bus is there anyway.'),
      pick('supply', 'wall-5v', 'Stays when the generator goes.'),
    ],
  },
  {
    family: 5,
    template: 'beat-rate',
    name: 'Tower-clock pendulum beat',
    place: 'clock tower',
    brief: { budget: 95, note: 'The clock loses half a minute a week, and nobody knows when.' },
    face: { bigChannelId: 'beat', look: 'trend' },
    picks: [
      pick('beats', 'reflex-pair', 'Follows every swing; the light-to-digital chip sees ten times a second.'),
      pick('board', 'fast-32-bit', 'Keeps two days of beats on its card.'),
      pick('display', 'memory-144x168', 'Read by the light of a torch.'),
      pick('supply', 'lead-12v', 'Lies there since the old lighting.'),
    ],
    hookup: { extras: [{ partId: 'lead-12v', quantity: 1, owned: 1, secondHand: 1 }] },
  },
  {
    family: 6,
    template: 'impact-peak',
    name: 'Trip-hammer blow meter',
    place: 'forge',
    brief: { budget: 90, note: 'Which cam, which lift, which iron: the blow that shapes without cracking.' },
    face: { bigChannelId: 'blow', look: 'auto' },
    picks: [
      pick(
        'blow',
        'load-cell-200kg',
        'The ten-a-second converter would miss most blows altogether.',
        'bridge-fast-24',
      ),
      pick('board', 'tiny-32-bit', 'Small enough for the anvil’s side.'),
      pick('display', 'oled-128x64', 'In the shade of the forge.'),
      pick('supply', 'lithium-cell', 'A day and more.'),
    ],
  },
  {
    family: 7,
    template: 'absorbance',
    name: 'Dye-vat colour checker',
    place: 'dye house',
    brief: { budget: 60, readyMade: 480, note: 'Is the vat still strong enough for another bolt?' },
    face: { bigChannelId: 'strength', look: 'auto' },
    picks: [
      pick('dye', 'spectral-detector', 'All five lamps on one chip, in codes; the photodiode ends at 1.3.'),
      pick('board', 'tiny-32-bit', 'The bus is all it needs.'),
      pick('display', 'oled-128x64', 'Behind the box’s window, away from the steam.'),
      pick('supply', 'wall-5v', 'In the dry corner.'),
    ],
  },
  {
    family: 8,
    template: 'ride-recorder',
    name: 'Sack-hoist ride recorder',
    place: 'hoist shaft',
    brief: { budget: 80, note: 'What do the sacks feel, and what would a person?' },
    face: { bigChannelId: 'z', look: 'rows' },
    picks: [
      pick('ride', 'axes-hoist', 'Ends at 16 g: a drop is not clipped. The analog chip ends at 3 g.'),
      pick('board', 'fast-32-bit', 'Records on its own card.'),
      pick('display', 'oled-128x64', 'Peaks at a glance.'),
      pick('supply', 'lithium-2s', 'A day of lifts.'),
    ],
  },
  {
    family: 9,
    template: 'cell-bench',
    name: 'Lantern-cell bench',
    place: 'lamp room',
    brief: { budget: 55, readyMade: 70, note: 'Which of forty lantern cells are still good?' },
    face: { bigChannelId: 'v', look: 'rows' },
    picks: [
      pick('volts', 'divider-cell', 'The 8-bit board’s converter would step by ten millivolts.'),
      pick(
        'amps',
        'shunt-amplifier',
        'Both ways about the middle; the Hall module drifts more than is asked.',
      ),
      pick('warmth', 'silicon-analog', 'Glued to the holder.'),
      pick('board', 'tiny-32-bit', 'Its 2.5 V reference fits all three.'),
      pick('display', 'oled-128x64', 'On the bus that the detector uses.'),
      pick('supply', 'wall-5v', 'Charges as well.'),
      pick('sounder', 'piezo-passive', 'Calls when a cell is done.'),
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
    name: 'Stone-spindle speed',
    place: 'stone floor',
    brief: { budget: 40, note: 'Too slow and the flour is coarse, too fast and it smells burnt.' },
    face: { bigChannelId: 'spindle', look: 'dial' },
    picks: [
      pick('speed', 'hall-switch', 'Flour dust blinds the reflex sensor, shaking makes the reed chatter.'),
      pick('board', 'tiny-32-bit', 'A milling week on four cells.'),
      pick('display', 'oled-128x64', 'On the dim stone floor.'),
      pick('supply', 'nickel-4aa', 'Charged each Sunday.'),
    ],
  },
  {
    family: 11,
    template: 'sprint',
    name: 'Ferry-punt sprint',
    place: 'landing stage',
    brief: { budget: 80, note: 'Does the new pole make her quicker, or the ferryman?' },
    face: { bigChannelId: 'punt', look: 'auto' },
    picks: [
      pick('speed', 'fix-10hz', 'One fix a second is too coarse; the USB stick wants a host.'),
      pick('board', 'tiny-32-bit', 'Has a serial line to spare.'),
      pick('display', 'memory-144x168', 'Clearest in full sun.'),
      pick('supply', 'nickel-4aa', 'An afternoon and more.'),
    ],
  },
  {
    family: 12,
    template: 'heading',
    name: 'Wind-vane heading',
    place: 'roof ridge',
    brief: { budget: 70, note: 'Sounds when the wind turns into the shutters’ sector.' },
    face: { bigChannelId: 'vane', look: 'rose' },
    picks: [
      pick('heading', 'magnetic-and-gravity', 'The two-axis chip works only level, and the vane leans.'),
      pick('board', 'tiny-32-bit', 'Draws a dozen milliamperes.'),
      pick('display', 'memory-144x168', 'The self-lit one is pale in sun.'),
      pick('supply', 'lead-12v', 'Keeps for weeks.'),
      pick('sounder', 'piezo-passive', 'No magnet in it, unlike the buzzer.'),
    ],
  },
  {
    family: 13,
    template: 'displacement',
    name: 'Sacking-cloth length roller',
    place: 'sack loft',
    brief: { budget: 45, note: 'Sacks are cut at 1.2 m; a bolt has fifty.' },
    face: { bigChannelId: 'cloth', look: 'auto' },
    picks: [
      pick('length', 'image-shift-chip', 'The desk mouse holds the same chip, but wants a USB host.'),
      pick('board', 'tiny-32-bit', 'Has the SPI lines.'),
      pick('display', 'oled-128x64', 'Indoors it is bright enough, on two wires.'),
      pick('supply', 'wall-5v', 'Beside the table.'),
    ],
  },
];
