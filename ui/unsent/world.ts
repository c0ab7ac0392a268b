/** A world for tests: a browser with a disk and several tabs, and a server that stores, refuses, stalls and loses answers as told. */
import { applyChanges, type ChangeSet } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import { changeSetShape } from '@/core/marking/wire';
import { laneOf, type Entry } from './entry';
import type { Found, Kept, Stored } from './kept';
import { Outbox } from './outbox';
import { type Around, type Message } from './around';
import type { Ask, HttpAnswer } from './transport';

export type Mood =
  | 'well'
  /** Nothing arrives, nothing is answered. */
  | 'away'
  /** It is stored, and the answer is lost. */
  | 'answer lost'
  /** A network's sign-in page. */
  | 'html'
  | 'busy'
  | 'full'
  /** 200 with something else in it. */
  | 'nonsense';

/** A server as `app/api` is, for marks, passages and settings. */
export class FakeServer {
  marking: Record<string, Marking> = {};
  history: ChangeSet[] = [];
  passages: Record<string, unknown> = {};
  settings: object[] = [];
  /** The next moods; then it is well. */
  moods: Mood[] = [];
  requests = 0;

  readonly ask: Ask = async (_method, url, value) => {
    this.requests++;
    const mood = this.moods.shift() ?? 'well';
    const json = (status: number, body: unknown, retryAfter: string | null = null): HttpAnswer => ({ status, text: JSON.stringify(body), retryAfter });
    switch (mood) {
      case 'away':
        return null;
      case 'html':
        return { status: 200, text: '<!doctype html><title>Welcome to the hotel</title>', retryAfter: null };
      case 'nonsense':
        return json(200, { ok: 'perhaps' });
      case 'busy':
        return json(503, { problem: { place: null, what: 'Too much to do.', remedy: 'Later.' } }, '3');
      case 'full':
        return json(507, { problem: { place: null, what: 'The disk is full.', remedy: 'Make room.' } });
      case 'answer lost':
        this.serve(url, value, json);
        return null;
      case 'well':
        return this.serve(url, value, json);
    }
  };

  private serve(url: string, value: unknown, json: (status: number, body: unknown) => HttpAnswer): HttpAnswer {
    const [, what, id, kind] = url.split('/').slice(1);
    if (what === 'markings') return this.storeSets(id!, value as unknown[], json);
    if (kind === 'passages') {
      const { from, to } = value as { from: unknown; to: unknown };
      const stored = this.passages[id!] ?? [];
      if (JSON.stringify(stored) !== JSON.stringify(from) && JSON.stringify(stored) !== JSON.stringify(to)) return json(409, { ok: false, passages: stored });
      this.passages[id!] = to;
      return json(200, { ok: true, passages: to });
    }
    if (JSON.stringify(value).includes('unheard of')) return json(400, { problem: { place: 'tempo', what: 'No.', remedy: 'Yes.' } });
    this.settings.push(value as object);
    return json(200, { ok: true });
  }

  private storeSets(id: string, sets: unknown[], json: (status: number, body: unknown) => HttpAnswer): HttpAnswer {
    if (id === 'gone') return json(404, { problem: { place: null, what: 'This marking is no longer there.', remedy: 'Open it again.' } });
    const stored: string[] = [];
    for (const each of sets) {
      const parsed = changeSetShape.safeParse(each);
      const known = (each as { id: string }).id;
      if (!parsed.success) return json(422, { stored, refused: { id: known, problem: { place: null, what: 'No such mark.', remedy: '' } }, clash: null });
      const set = parsed.data as ChangeSet;
      if (!this.history.some((other) => other.id === set.id)) {
        const { marking, conflicts } = applyChanges(this.marking[id] ?? {}, set.changes);
        if (conflicts.length) {
          const clash = {
            id: set.id,
            conflicts: conflicts.map(({ change, stored: there }) => ({ target: change.target, kind: change.kind, stored: there })),
            marking: this.marking[id] ?? {},
          };
          return json(409, { stored, refused: null, clash });
        }
        this.marking[id] = marking;
        this.history.push(set);
      }
      stored.push(set.id);
    }
    return json(200, { stored, refused: null, clash: null });
  }
}

/** The disk that all tabs of a browser share; it can be full. */
export class FakeDisk implements Kept {
  entries: Entry[] = [];
  full = false;
  private memory: Stored[] = [];
  private next = 1;
  async put(entry: Entry): Promise<number> {
    await Promise.resolve();
    if (this.full) throw new Error('QuotaExceededError');
    this.entries.push({ ...entry, seq: this.next });
    return this.next++;
  }
  async all(): Promise<Entry[]> {
    return [...this.entries];
  }
  async remove(ids: readonly string[]): Promise<void> {
    this.entries = this.entries.filter(({ id }) => !ids.includes(id));
  }
  async stored(ids: readonly string[], at: number): Promise<void> {
    this.memory.push(...this.entries.filter(({ id }) => ids.includes(id)).map((entry) => ({ entry, at })));
    await this.remove(ids);
  }
  async found(since: number): Promise<Found> {
    this.memory = this.memory.filter(({ at }) => at >= since);
    return { waiting: [...this.entries], stored: [...this.memory] };
  }
  async rewrite(lane: string, change: (entries: Entry[]) => Entry[]): Promise<Entry[]> {
    const after = change(this.entries.filter(({ body }) => laneOf(body) === lane)).map((entry) => ({ ...entry, seq: this.next++ }));
    this.entries = [...this.entries.filter(({ body }) => laneOf(body) !== lane), ...after];
    return after;
  }
}

interface Tab {
  outbox: Outbox;
  hear: (message: Message) => void;
  wake: () => void;
  closed: boolean;
}

export class FakeBrowser {
  readonly disk = new FakeDisk();
  time = 0;
  private tabs: Tab[] = [];
  private timers: Array<{ at: number; task: () => void }> = [];
  private queue: Array<() => Promise<void>> = [];
  private locked = false;
  private ids = 0;

  constructor(readonly server: FakeServer) {}

  /** Ids that the server's shapes take. */
  readonly newId = (): string => `00000000-0000-4000-8000-${String(++this.ids).padStart(12, '0')}`;

  openTab(): Tab {
    const tab = { hear: () => undefined, wake: () => undefined, closed: false } as unknown as Tab;
    const around: Around = {
      kept: this.disk,
      ask: (method, url, value) => (tab.closed ? new Promise(() => undefined) : this.server.ask(method, url, value)),
      tell: (message) => {
        if (tab.closed) return;
        const text = JSON.stringify(message);
        for (const other of this.tabs) if (other !== tab && !other.closed) queueMicrotask(() => other.hear(JSON.parse(text) as Message));
      },
      listen: (hear) => (tab.hear = hear),
      alone: (work) => {
        this.queue.push(async () => {
          if (!tab.closed) await Promise.race([work(), new Promise<void>((resolve) => (tab.wake = wakeAnd(tab.wake, () => tab.closed && resolve())))]);
        });
        void this.nextAlone();
      },
      onAwake: (wake) => (tab.wake = wakeAnd(tab.wake, wake)),
      after: (ms, task) => {
        const timer = { at: this.time + ms, task: () => !tab.closed && task() };
        this.timers.push(timer);
        return () => (this.timers = this.timers.filter((each) => each !== timer));
      },
      now: () => this.time,
      newId: this.newId,
    };
    this.tabs.push(tab);
    tab.outbox = new Outbox(around);
    return tab;
  }

  /** As when the browser is killed: nothing more is said or done. */
  closeTab(tab: Tab): void {
    tab.closed = true;
    this.tabs = this.tabs.filter((each) => each !== tab);
    this.locked = false;
    void this.nextAlone();
  }

  private async nextAlone(): Promise<void> {
    if (this.locked) return;
    const next = this.queue.shift();
    if (!next) return;
    this.locked = true;
    await next();
  }

  /** Lets everything run until nothing happens any more, with as much time as that takes. */
  async settle(mostMs = Infinity): Promise<void> {
    const until = this.time + mostMs;
    for (let quiet = 0; quiet < 3;) {
      for (let i = 0; i < 40; i++) await Promise.resolve();
      await new Promise((resolve) => setImmediate(resolve));
      const due = this.timers.filter(({ at }) => at <= until).sort((a, b) => a.at - b.at)[0];
      if (!due) {
        quiet++;
        continue;
      }
      quiet = 0;
      this.timers = this.timers.filter((each) => each !== due);
      this.time = Math.max(this.time, due.at);
      due.task();
    }
  }
}

const wakeAnd = (first: () => void, then: () => void) => () => {
  first();
  then();
};
