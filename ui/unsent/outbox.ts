/**
 * Everything that the coach changes goes through here: it is kept on the browser's disk, sent in order by one of all tabs, and told
 * to the other tabs at once. What is refused for good is set aside and the rest goes on; where somebody else changed the same
 * thing, its lane waits until the coach has decided.
 */
import { rebased, type Whose } from '@/core/marking/rebase';
import type { ChangeSet } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import type { Problem } from '@/core/util/problem-shape';
import { laneOf, type Body, type Entry } from './entry';
import type { Stored } from './kept';
import { NOTHING_UNSENT, sendable, unsent, whyNot, type UnsentEvent, type UnsentState, type Way } from './state';
import { batchOf, sendBatch } from './transport';
import { entryOf, onWhatItWasMadeOn } from './remade';
import type { Message, Around, LaneEvent } from './around';

const MOST_REMEMBERED = 2_000;

/** A view of a part is made within this time, in ms; settings that were stored earlier are in it. */
export const VIEW_MS = 20_000;

/** Pauses after attempts without an answer, in ms; the last one goes on for ever. */
const PAUSES = [500, 1_000, 2_000, 4_000, 8_000, 15_000];

export class Outbox {
  private state: UnsentState = NOTHING_UNSENT;
  private readonly listeners = new Set<() => void>();
  private readonly lanes = new Map<string, Set<(event: LaneEvent) => void>>();
  private readonly followers = new Set<(lane: string, event: LaneEvent) => void>();
  private writing: Promise<void> = Promise.resolve();
  private failures = 0;
  private wake: (() => void) | null = null;
  /** Something new came while a request was under way. */
  private woken = false;
  /** Somebody does not want to wait. */
  private hurried = false;
  private sends = false;
  /** What was stored while this page has been here and shortly before, in order: a view of a part may have been made before it. */
  private readonly stored: Stored[] = [];
  /** What was heard to be stored in other browsers. */
  private readonly heardOf = new Set<string>();
  private readonly ready: Promise<void>;

  constructor(private readonly around: Around) {
    around.listen((message) => this.hear(message));
    around.onAwake(() => this.go());
    this.ready = this.load();
    around.alone(() => this.sendForEver());
    around.tell({ tells: 'hello' });
  }

  private async load(): Promise<void> {
    const now = this.around.now();
    const { waiting, stored } = await this.around.kept.found(now - VIEW_MS).catch(() => ({ waiting: [], stored: [] }));
    // Heard to be stored while we were reading: it waits no longer, and a view may lack it.
    const meanwhile = waiting.filter(({ id }) => this.state.gone.has(id)).map((entry) => ({ entry, at: now }));
    this.stored.unshift(...stored, ...meanwhile);
    this.dispatch({ is: 'loaded', entries: waiting });
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): UnsentState => this.state;

  /** Follows one lane. */
  follow(lane: string, listener: (event: LaneEvent) => void): () => void {
    const listeners = this.lanes.get(lane) ?? new Set();
    this.lanes.set(lane, listeners.add(listener));
    const clash = this.state.clashes[lane];
    if (clash) queueMicrotask(() => listeners.has(listener) && listener({ is: 'clash', clash }));
    return () => void listeners.delete(listener);
  }

  /** Follows all lanes. */
  followAll(listener: (lane: string, event: LaneEvent) => void): () => void {
    this.followers.add(listener);
    return () => void this.followers.delete(listener);
  }

  /**
   * What a view of a lane has to add to what the server gave it: changes that wait, and before them those that were stored while
   * this page has been here, or while it was on its way. A view that was made before they were does not know of them.
   * @param of a lane, or which changes of all lanes
   * @param withinMs only those that were stored so recently
   */
  async left(of: string | ((body: Body) => boolean), withinMs = Infinity): Promise<{ stored: Entry[]; waiting: Entry[] }> {
    await this.ready;
    const since = this.around.now() - withinMs;
    const isOf = typeof of === 'string' ? (body: Body) => laneOf(body) === of : of;
    return {
      stored: this.stored.filter(({ entry, at }) => at >= since && isOf(entry.body)).map(({ entry }) => entry),
      waiting: this.state.entries.filter((entry) => !entry.refused && isOf(entry.body)),
    };
  }

  /** Takes a change: shown as saving, kept, then sent. */
  add(body: Body, id: string = this.around.newId()): void {
    const entry: Entry = { id, madeAt: new Date(this.around.now()).toISOString(), body, refused: null, seq: null };
    this.dispatch({ is: 'made', entry });
    this.writing = this.writing.then(async () => {
      try {
        const seq = await this.around.kept.put(entry);
        this.both({ is: 'kept', entry: { ...entry, seq } });
      } catch {
        this.dispatch({ is: 'not kept', id });
        // Nobody else can send what only this page has.
        void this.sendHere();
      }
      this.nudge(false);
    });
  }

  /** What was stored in another browser is told to who shows it; what is our own is known. @param id of the change set or the deed */
  heard(body: Body, id: string): void {
    const isIt = (entry: Entry): boolean => entry.id === id || ('deed' in entry.body && entry.body.deed?.id === id);
    if (this.heardOf.has(id)) return;
    this.heardOf.add(id);
    if (this.state.gone.has(id) || this.state.entries.some(isIt) || this.stored.some(({ entry }) => isIt(entry))) return;
    this.toLane(laneOf(body), { is: 'stored elsewhere', body });
  }

  /** Whether something of a lane waits to be sent. */
  readonly waitsIn = (lane: string): boolean => this.state.entries.some(({ body, refused }) => !refused && laneOf(body) === lane);

  /** Decides a clash of marks mark by mark; what did not clash stays. */
  async settleMarks(lane: string, whose: (key: string) => Whose): Promise<void> {
    const clash = this.state.clashes[lane];
    if (clash?.about !== 'marks') return;
    await this.rewrite(lane, clash.marking, (sets) => rebased(sets, clash.marking, whose, this.around.newId).sets);
  }

  /** Decides a clash of passages: mine are put in the place of what is stored, or let go. */
  async settlePassages(lane: string, whose: Whose): Promise<void> {
    const clash = this.state.clashes[lane];
    if (clash?.about !== 'passages') return;
    await this.rewriteLane(lane, null, (before) => {
      const last = before.findLast(({ refused }) => !refused);
      if (whose === 'theirs' || last?.body.about !== 'passages') return before.filter(({ refused }) => refused);
      return [...before.filter(({ refused }) => refused), { ...last, id: this.around.newId(), body: { ...last.body, from: clash.passages } }];
    });
    this.nudge(true);
  }

  /** Lets go of what was refused. */
  async drop(id: string): Promise<void> {
    await this.around.kept.remove([id]).catch(() => undefined);
    this.both({ is: 'stored', ids: [id] });
  }

  /** Tries at once instead of waiting. */
  readonly go = (): void => {
    this.around.tell({ tells: 'go' });
    this.nudge(true);
  };

  // ---- the tab that sends -----------------------------------------------------------------------

  private async sendForEver(): Promise<void> {
    this.sends = true;
    await this.ready;
    for (;;) {
      const pauseMs = await this.step().catch((error: unknown) => this.troubled(error));
      if (pauseMs === 0) continue;
      await this.sleep(pauseMs);
    }
  }

  /** Something that nobody thought of: what is kept stays kept, and it is tried again after the longest pause. */
  private troubled(error: unknown): number {
    console.error('unsent changes:', error);
    const pause = PAUSES.at(-1)!;
    const what = 'Sending your changes met an error of its own.';
    this.goTo({
      to: 'waiting',
      until: this.around.now() + pause,
      problem: { place: null, what, remedy: 'They are kept. Reload the page; the console of the browser says more.' },
    });
    return pause;
  }

  /** Without a place to keep things there is nothing that tabs could share: each sends its own. */
  private async sendHere(): Promise<void> {
    if (this.sends) return;
    this.sends = true;
    await this.sendForEver();
  }

  /** One request. @returns ms until the next one; Infinity where there is nothing to send */
  private async step(): Promise<number> {
    const batch = batchOf(sendable(await this.waiting(), this.state.clashes));
    const [first] = batch;
    if (!first) {
      this.failures = 0;
      this.goTo({ to: 'idle' });
      return Infinity;
    }
    this.goTo({ to: 'sending', again: whyNot(this.state.way) });
    const lane = laneOf(first.body);
    const outcome = await sendBatch(batch, this.around.ask);
    if (outcome.kind === 'no answer') {
      const pause = Math.max(outcome.retryAfterMs ?? 0, PAUSES[Math.min(this.failures++, PAUSES.length - 1)]!);
      this.goTo({ to: 'waiting', until: this.around.now() + pause, problem: outcome.problem });
      return pause;
    }
    this.failures = 0;
    this.goTo({ to: 'sending', again: null });
    const known = new Set(batch.map(({ id }) => id));
    const stored = outcome.stored.filter((id) => known.has(id));
    if (stored.length) {
      await this.around.kept.stored(stored, this.around.now()).catch(() => undefined);
      this.both({ is: 'stored', ids: stored });
    }
    if (outcome.refused) await this.setAside(lane, batch, stored, outcome.refused);
    if (outcome.clash) this.both({ is: 'clash', lane, clash: outcome.clash });
    return 0;
  }

  /** From the disk, so that what other tabs made is sent whatever was heard of it; and what this page alone has. */
  private async waiting(): Promise<Entry[]> {
    const kept = await this.around.kept.all().catch(() => []);
    const there = new Set(kept.map(({ id }) => id));
    return [...kept.filter(({ id }) => !this.state.gone.has(id)), ...this.state.entries.filter(({ id }) => !there.has(id) && this.state.onlyHere.has(id))];
  }

  /** One entry is refused for good: it stays, marked so, and what was made on top of it is put on what it was made on. */
  private async setAside(lane: string, batch: readonly Entry[], stored: readonly string[], refused: { id: string; problem: Problem }): Promise<void> {
    const id = batch.some((entry) => entry.id === refused.id) ? refused.id : batch.find((entry) => !stored.includes(entry.id))?.id;
    await this.rewriteLane(lane, null, (entries) => {
      const bad = entries.find((entry) => entry.id === id);
      if (!bad) return [...entries];
      const others = entries.filter((entry) => entry !== bad);
      const rest = bad.body.about === 'marks' ? onWhatItWasMadeOn(bad, others, this.around.newId) : others;
      return [{ ...bad, refused: refused.problem }, ...rest];
    });
  }

  /** Puts other entries in the place of a lane's, on the disk and in all tabs; in memory where this page alone has them. */
  private async rewriteLane(lane: string, base: Marking | null, change: (before: Entry[]) => Entry[]): Promise<void> {
    // What was made before is on the disk first; what is made meanwhile comes after it.
    await this.writing;
    const ofLane = (entries: readonly Entry[]) => entries.filter(({ body }) => laneOf(body) === lane);
    let before: Entry[] = [];
    const put = (entries: Entry[]): Entry[] => {
      before = [...entries, ...ofLane(this.state.entries).filter(({ id }) => this.state.onlyHere.has(id))];
      return change(before);
    };
    const entries = await this.around.kept.rewrite(lane, put).catch(() => put([]));
    const now = new Set(entries.map(({ id }) => id));
    const gone = before.map(({ id }) => id).filter((id) => !now.has(id));
    this.both({ is: 'rewritten', lane, entries, gone }, base ?? undefined);
  }

  private async rewrite(lane: string, base: Marking, change: (sets: ChangeSet[]) => ChangeSet[]): Promise<void> {
    await this.rewriteLane(lane, base, (before) => {
      const open = before.filter(({ refused }) => !refused);
      const [first] = open;
      const sets = change(open.flatMap(({ body }) => (body.about === 'marks' ? [body.set] : [])));
      return [...before.filter(({ refused }) => refused), ...sets.map((set) => entryOf(set, open.find(({ id }) => id === set.id) ?? first!))];
    });
    this.nudge(true);
  }

  private sleep(ms: number): Promise<void> {
    const [woken, hurried] = [this.woken, this.hurried];
    this.woken = false;
    this.hurried = false;
    if (hurried || (woken && ms === Infinity)) return Promise.resolve();
    return new Promise((resolve) => {
      const cancel = ms === Infinity ? () => undefined : this.around.after(ms, () => this.wake?.());
      this.wake = () => {
        cancel();
        this.wake = null;
        resolve();
      };
    });
  }

  /** There is something to send: a sender that has nothing to do looks again. One that waits for the server goes on waiting. */
  private nudge(hurry: boolean): void {
    if (!hurry && this.state.way.to === 'waiting') return;
    if (this.wake) this.wake();
    else if (hurry) this.hurried = true;
    else this.woken = true;
  }

  // ---- telling ----------------------------------------------------------------------------------

  private goTo(way: Way): void {
    if (way.to === 'idle' && this.state.way.to === 'idle') return;
    this.both({ is: 'way', way });
  }

  /** Here and in the other tabs. */
  private both(event: UnsentEvent, base?: Marking): void {
    this.dispatch(event, base);
    this.around.tell({ tells: 'event', event, ...(base ? { base } : {}) });
  }

  private hear(message: Message): void {
    if (message.tells === 'go') return this.nudge(true);
    if (message.tells === 'hello') return this.tellWhatWaits();
    const { event, base } = message;
    if (event.is === 'kept' && !this.state.gone.has(event.entry.id) && !this.state.entries.some(({ id }) => id === event.entry.id)) {
      this.dispatch(event);
      this.toLane(laneOf(event.entry.body), { is: 'made elsewhere', entry: event.entry });
    } else this.dispatch(event, base);
    if (event.is === 'kept') this.nudge(false);
    if (event.is === 'rewritten') this.nudge(true);
  }

  private tellWhatWaits(): void {
    if (!this.sends) return;
    for (const [lane, clash] of Object.entries(this.state.clashes)) this.around.tell({ tells: 'event', event: { is: 'clash', lane, clash } });
    this.around.tell({ tells: 'event', event: { is: 'way', way: this.state.way } });
  }

  private dispatch(event: UnsentEvent, base?: Marking): void {
    const before = this.state;
    this.state = unsent(before, event);
    if (event.is === 'stored') {
      const at = this.around.now();
      this.stored.push(...before.entries.filter(({ id, refused }) => !refused && event.ids.includes(id)).map((entry) => ({ entry, at })));
      this.stored.splice(0, Math.max(0, this.stored.length - MOST_REMEMBERED));
      for (const lane of new Set(before.entries.filter(({ id }) => event.ids.includes(id)).map(({ body }) => laneOf(body)))) this.toLane(lane, event);
    }
    if (event.is === 'clash') this.toLane(event.lane, { is: 'clash', clash: event.clash });
    if (event.is === 'rewritten') {
      const entries = this.state.entries.filter(({ body, refused }) => !refused && laneOf(body) === event.lane);
      this.toLane(event.lane, { is: 'rewritten', entries, base: base ?? null });
    }
    this.listeners.forEach((listener) => listener());
  }

  private toLane(lane: string, event: LaneEvent): void {
    this.lanes.get(lane)?.forEach((listener) => listener(event));
    this.followers.forEach((listener) => listener(lane, event));
  }
}
