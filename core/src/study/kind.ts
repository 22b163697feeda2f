import type { TObject } from 'typebox';
import type { ChannelBrief } from '../model/gadget.ts';
import type { ParamValue } from '../model/line.ts';
import type { UnitId } from '../units/index.ts';
import type { VerdictState } from '../verdict/index.ts';

/** What a study is about: the reading of a channel or one of its figures, and what the brief asks of it. */
export interface StudyAbout {
  readonly name: string;
  readonly unit: UnitId;
  /** What is allowed, in the same unit; null where the brief asks nothing of it. */
  readonly tolerance: number | null;
  /** Ends of the range that the brief asks for, in the same unit; null as well. */
  readonly range: readonly [low: number, high: number] | null;
  readonly brief: ChannelBrief | null;
  /** Whether it is a whole number of events. */
  readonly isCount: boolean;
}

/** What stands in one column of a study's table. */
export interface StudyColumn {
  readonly id: string;
  readonly title: string;
  /** "shown": what the gadget shows, taken from it or typed; "reference": what is true, in the same unit. */
  readonly holds: 'shown' | 'reference' | 'number' | 'count' | 'text' | 'choice' | 'day';
  readonly choices?: readonly string[];
  readonly unit?: string;
  /** It may be left empty. */
  readonly optional?: boolean;
}

export type StudyValues = Readonly<Record<string, number | string>>;

/** One line of evidence as it is judged. */
export interface StudyRow {
  readonly values: StudyValues;
  /** When it was kept, s since 1970. */
  readonly keptS: number;
}

/** Readings of a stretch of a run. */
export interface StudySamples {
  readonly name: string;
  /** Rows a second that the recording was made with. */
  readonly rateHz: number;
  readonly times: Float64Array;
  /** Readings at those times; NaN where there is none. */
  readonly values: Float64Array;
  /** Where the kind asks for them: the same readings with one raw column held still. */
  readonly held: Float64Array | null;
  /** Times of all raw rows in the stretch, as they were stamped. */
  readonly stamps: Float64Array;
}

export interface StudyEvidence {
  readonly rows: readonly StudyRow[];
  readonly samples: readonly StudySamples[];
}

export interface StudyPlotSeries {
  readonly label: string;
  readonly x: readonly number[];
  readonly y: readonly number[];
  readonly style: 'points' | 'line' | 'limit' | 'middle';
}

export interface StudyPlot {
  readonly title: string;
  readonly x: StudyPlotAxis;
  readonly y: StudyPlotAxis;
  readonly series: readonly StudyPlotSeries[];
  /** Where it may lie, on the ordinate; null for none. */
  readonly allowed: readonly [low: number, high: number] | null;
}

export interface StudyPlotAxis {
  readonly label: string;
  readonly unit: string;
  /** "whole": numbers of runs, trials, things. */
  readonly scale: 'linear' | 'logarithmic' | 'whole';
  /** What the whole numbers from 1 on stand for. */
  readonly names?: string[];
  /** Where it begins and ends whatever there is; null where that follows from what there is. */
  readonly ends?: [low: number | null, high: number | null];
}

export interface StudyFact {
  readonly title: string;
  /** With its unit, to the digits that it deserves. */
  readonly text: string;
}

/** What a study comes to. */
export interface StudyResult {
  readonly state: VerdictState;
  readonly sentence: string;
  /** What to do next; empty where nothing is left to do. */
  readonly next: string;
  readonly facts: readonly StudyFact[];
  readonly plots: readonly StudyPlot[];
}

export type StudySettings = Readonly<Record<string, ParamValue>>;

/** The contract of every kind of study: one file in core/src/study/kinds declares one. */
export interface StudyKind<S extends StudySettings = StudySettings> {
  readonly kind: string;
  readonly title: string;
  /** The question that it answers, as its maker would ask it. */
  readonly question: string;
  /** What it needs, in one sentence. */
  readonly needs: string;
  /** What the claim is called when it stands among the others; null where it answers a question and claims nothing. */
  readonly claim: string | null;
  readonly settings: TObject;
  /** Settings to begin with; what only the maker can know is left out, and is not known then. */
  begin(about: StudyAbout): S;
  /** Settings in the unit of what the study is about. */
  readonly inUnit: readonly string[];
  /** Columns of its table; none where it takes stretches of runs. */
  readonly columns: readonly StudyColumn[];
  /** What it takes of a stretch of a run; null where it takes rows. */
  readonly takes: 'readings' | 'held' | null;
  /** A row is a trial with a begin and an end, whose counts are what came between them. */
  readonly trials?: boolean;
  /** Rows of before a change stand beside those of after it: they do not go stale. */
  readonly acrossChanges?: boolean;
  /** Whether it means something for this. */
  suits(about: StudyAbout): boolean;
  /** @throws {RangeError} in words, where the evidence cannot be worked with */
  judge(settings: S, evidence: StudyEvidence, about: StudyAbout): StudyResult;
}

/** Declares a kind with its own settings, for the registry. */
export const studyKind = <S extends StudySettings>(kind: StudyKind<S>): StudyKind =>
  kind as unknown as StudyKind;
