import { MessageChannel } from 'node:worker_threads';
import type { DrawValues, ExerciseDocument } from '@nailset/core';
import type { FastifyBaseLogger } from 'fastify';
import { LRUCache } from 'lru-cache';
import { Piscina } from 'piscina';
import { Refusal } from '../errors.js';
import type { Drawing } from '../store/exercises.js';
import type { Reading } from '../store/handIn.js';
import type { Answered, Piece, Recheck, Rechecked, Work } from './work.js';

/** Longest time for examining an exercise, which tries many draws of every part. */
const examineSeconds = 20;
/** Longest time for what a person waits for: a view, an answer to be read. */
const viewSeconds = 10;

/** A picture that is not there by then is laid out by the browser that shows it. */
const soonMilliseconds = 400;

/** Work that was begun and did not end in its time. */
export class OutOfTime extends Error {}

/** A published version with the numbers of one student. */
export interface StudentVersion {
  readonly versionId: string;
  readonly personId: string;
  readonly document: ExerciseDocument;
  readonly values: DrawValues;
}

type View = 'view' | 'solutions' | 'revealed' | 'measured' | 'drawings';

/** Runs work on threads with a time limit that counts from its beginning, so that no computation holds up a request. */
export class Threads implements Drawing, Reading {
  private readonly checking: Piscina<Piece, unknown>;
  /** One of them is kept ready, for what a person waits for. */
  private readonly showing = poolOf(2, 1);
  /** Examining takes long; one at a time, so that it takes no more than one processor. */
  private readonly examining = poolOf(1);
  /** What students see, as far as 64 million characters go: pictures are in it. */
  private readonly views = new LRUCache<string, object>({
    maxSize: 64_000_000,
    sizeCalculation: sizeOf,
  });
  /** What is being worked out just now, so that asking twice works it out once. */
  private readonly underWay = new Map<string, Promise<object>>();

  constructor(
    checkThreads: number,
    private readonly checkSeconds: number,
    private readonly log: FastifyBaseLogger,
  ) {
    // Kept ready, as loading the core takes longer than most checks; as many as checks run at a time, so none waits here.
    this.checking = poolOf(checkThreads, checkThreads);
  }

  /** @throws OutOfTime; Error where the checker itself failed. */
  check(answered: Answered): Promise<ReturnType<Work['check']>> {
    const { given, part, values, answer } = answered;
    return this.run(this.checking, 'check', { given, part, values, answer }, this.checkSeconds);
  }

  /** Answers checked against another version, each with its time limit. @throws Error where the checker itself failed. */
  async recheck(document: ExerciseDocument, items: readonly Rechecked[]): Promise<Recheck[]> {
    try {
      return await this.run(this.checking, 'recheck', { document, items }, this.checkSeconds);
    } catch (error) {
      if (!(error instanceof OutOfTime)) throw error;
      if (items.length === 1) return [{ problem: 'The check was stopped: it took too long.' }];
      const alone: Recheck[] = [];
      for (const item of items) alone.push(...(await this.recheck(document, [item])));
      return alone;
    }
  }

  /** @throws Refusal `refused` with the position, for an answer that cannot be read. */
  async read(answered: Parameters<Work['read']>[0]): Promise<void> {
    const problem = await this.shown('read', answered);
    if (problem) throw new Refusal('refused', problem.message, { at: problem.at });
  }

  /** The expected answers to one part for these sets of numbers; null where there is none. @throws Refusal `tooSlow`. */
  expected(document: ExerciseDocument, partId: string, values: readonly DrawValues[]): Promise<(string | null)[]> {
    return this.shown('expected', { document, partId, values });
  }

  /** The way to an expected answer. @throws Refusal `tooSlow`. */
  working(input: Parameters<Work['working']>[0]): Promise<ReturnType<Work['working']>> {
    return this.shown('working', input);
  }

  /** What a student would see with other numbers; not remembered, as nobody asks for them again. @throws Refusal `tooSlow`. */
  view(input: Parameters<Work['view']>[0]): Promise<ReturnType<Work['view']>> {
    return this.shown('view', input);
  }

  /** An answer to other numbers, checked at once. @throws Refusal `tooSlow`. */
  practised(input: Parameters<Work['practised']>[0]): Promise<ReturnType<Work['practised']>> {
    return this.shown('practised', input);
  }

  draw(input: Parameters<Work['draw']>[0]): Promise<DrawValues> {
    return this.shown('draw', input);
  }

  /** What a student sees of a version, worked out once while it is remembered. @throws Refusal `tooSlow`. */
  async seen<N extends View>(name: N, { versionId, personId, document, values }: StudentVersion) {
    const key = `${name} ${versionId} ${personId}`;
    const known = this.views.get(key);
    if (known) return known as Awaited<ReturnType<Work[N]>>;
    const work = this.underWay.get(key) ?? this.shown(name, { document, values });
    this.underWay.set(key, work);
    try {
      const view = await work;
      this.views.set(key, view);
      return view as Awaited<ReturnType<Work[N]>>;
    } finally {
      this.underWay.delete(key);
    }
  }

  /** The diagrams of a version as they are drawn, the same for everyone; undefined when that takes a while. */
  drawingsSoon(version: Omit<StudentVersion, 'personId'>): Promise<Awaited<ReturnType<Work['drawings']>> | undefined> {
    const drawings = this.seen('drawings', { ...version, personId: 'everyone' });
    return Promise.race([
      drawings.catch(() => undefined),
      new Promise<undefined>((resolve) => setTimeout(resolve, soonMilliseconds, undefined).unref()),
    ]);
  }

  /**
   * Everything that keeps a document from being published.
   * @throws Refusal `notReady` when that cannot be found out in time; checking its answers could not be either.
   */
  examine(document: ExerciseDocument): Promise<ReturnType<Work['examine']>> {
    return this.run(this.examining, 'examine', document, examineSeconds).catch((error: unknown) => {
      this.log.error({ err: error }, 'an exercise could not be examined');
      throw new Refusal('notReady', 'Its systems take too long to work out, so answers could not be checked either.');
    });
  }

  /** How many of these sets of numbers a document does not allow. @throws Refusal `notReady` when it takes too long. */
  countRuledOut(document: ExerciseDocument, seen: DrawValues[]): Promise<number> {
    return this.run(this.examining, 'countRuledOut', { document, seen }, examineSeconds).catch((error: unknown) => {
      this.log.error({ err: error }, 'the numbers of a class could not be looked at');
      throw new Refusal('notReady', 'Its guards take too long to work out for the numbers that students have.');
    });
  }

  async close(): Promise<void> {
    await Promise.all([this.checking, this.showing, this.examining].map((pool) => pool.destroy()));
  }

  private shown<N extends View | 'read' | 'draw' | 'expected' | 'working' | 'practised'>(
    name: N,
    input: Parameters<Work[N]>[0],
  ): Promise<Awaited<ReturnType<Work[N]>>> {
    return this.run(this.showing, name, input, viewSeconds).catch((error: unknown) => {
      this.log.error({ err: error, name }, 'a view could not be worked out');
      throw error instanceof OutOfTime ? new Refusal('tooSlow') : error;
    });
  }

  private async run<N extends keyof Work>(
    pool: Piscina<Piece, unknown>,
    name: N,
    input: Parameters<Work[N]>[0],
    seconds: number,
  ): Promise<Awaited<ReturnType<Work[N]>>> {
    const limit = new AbortController();
    let timer: NodeJS.Timeout | undefined;
    const begin = () => (timer = setTimeout(() => limit.abort(), seconds * 1000));
    // Where others may be before it, the thread tells when it begins.
    const channel = pool === this.examining ? new MessageChannel() : undefined;
    if (channel) channel.port1.once('message', begin);
    else begin();
    try {
      const piece: Piece = { name, input, begun: channel?.port2 };
      const transferList = channel ? [channel.port2] : [];
      return (await pool.run(piece, { signal: limit.signal, transferList })) as Awaited<ReturnType<Work[N]>>;
    } catch (error) {
      if (limit.signal.aborted) throw new OutOfTime(`${name} took longer than ${seconds} s`);
      throw error;
    } finally {
      clearTimeout(timer);
      channel?.port1.close();
    }
  }
}

const poolOf = (maxThreads: number, minThreads = 0) =>
  new Piscina<Piece, unknown>({
    // Beside this one, in the folder of sources as in that of what is run.
    filename: new URL('./work.js', import.meta.url).href,
    minThreads,
    maxThreads: Math.max(1, maxThreads),
    idleTimeout: 30_000,
  });

/** Roughly how many characters a value is long, without writing it out. */
function sizeOf(value: unknown): number {
  if (typeof value === 'string') return value.length + 2;
  if (typeof value !== 'object' || value === null) return 8;
  return Object.values(value).reduce<number>((sum, each) => sum + sizeOf(each), 2);
}
