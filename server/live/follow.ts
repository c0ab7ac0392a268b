/** A page that is open follows its part: what others store there, and who else is there. */
import { accessOf, may, type Access } from '../access';
import { book } from '../metrics';
import { channel, tell, type Word } from './channel';
import { newsSince, seenAsText, type Seen } from './news';

/** Says that it is still there, and asks whether it still may. */
const PULSE_MS = 20_000;
/** Who has not been heard of for so long is gone. */
const GONE_MS = 50_000;

export interface Following {
  partId: string;
  /** How far the page has seen. */
  seen: Seen;
  /** The page, among all that are open. */
  page: string;
  /** Of the browser: asked again and again whether it is still in. */
  token: string | undefined;
  /** Tells once what there is, and ends. */
  once: boolean;
  /** Between two signs of life, in ms. */
  pulseMs?: number;
  signal: AbortSignal;
}

const utf8 = new TextEncoder();

/** Events as browsers read them (WHATWG HTML, server-sent events). */
export function following(access: Access, asked: Following): ReadableStream<Uint8Array> {
  let end = (): void => undefined;
  return new ReadableStream({
    start(controller) {
      const stream = new PartStream(access, asked, controller);
      end = () => stream.end();
      asked.signal.addEventListener('abort', end, { once: true });
      stream.begin();
    },
    cancel: () => end(),
  });
}

class PartStream {
  private seen: Seen;
  private readonly others = new Map<string, { name: string; at: number }>();
  private last = '';
  private busy: Promise<void> = Promise.resolve();
  private wanted = false;
  private over = false;
  private stop: () => void = () => undefined;
  private pulse: NodeJS.Timeout | undefined;

  constructor(
    private readonly access: Access,
    private readonly asked: Following,
    private readonly controller: ReadableStreamDefaultController<Uint8Array>,
  ) {
    this.seen = asked.seen;
  }

  begin(): void {
    this.write('retry: 2000\n\n');
    if (this.asked.once) return void this.look().then(() => this.end());
    book()?.follows(1);
    this.stop = channel().follow(this.asked.partId, (word) => this.hear(word));
    this.pulse = setInterval(() => void this.beat(), this.asked.pulseMs ?? PULSE_MS);
    this.say('who');
    this.say('here');
    this.wish();
  }

  private hear(word: Word | null): void {
    if (word && word.studio !== this.access.studio) return;
    if (word === null || word.what === 'news') return this.wish();
    const { page, name, what } = word;
    if (what === 'who' && page !== this.asked.page) return this.say('here');
    if (!page || page === this.asked.page) return;
    const isKnown = this.others.get(page)?.name === name;
    if (what === 'here') this.others.set(page, { name: name ?? '', at: Date.now() });
    if (what === 'gone') this.others.delete(page);
    // That somebody is still there is no news.
    if (what === 'gone' || !isKnown) this.wish();
  }

  private say(what: 'here' | 'gone' | 'who'): void {
    const word = { part: this.asked.partId, what, page: this.asked.page, name: this.access.person };
    tell(this.access, word).catch((error: Error) => console.error('live: nobody was told:', error.message));
  }

  /** Looks once for all that was heard while it looked. */
  private wish(): void {
    if (this.wanted) return;
    this.wanted = true;
    this.busy = this.busy.then(() => {
      this.wanted = false;
      return this.look();
    });
  }

  private async look(): Promise<void> {
    if (this.over) return;
    try {
      const found = await newsSince(this.access, this.asked.partId, this.seen, channel().words);
      if (!found) return this.end();
      const { marks, deeds, music, onShelf } = found.news;
      this.seen = found.seen;
      const state = { music, onShelf, here: this.names() };
      const now = JSON.stringify(state);
      if (marks.length === 0 && deeds.length === 0 && now === this.last) return;
      this.last = now;
      this.write(`id: ${seenAsText(this.seen)}\ndata: ${JSON.stringify({ marks, deeds, ...state })}\n\n`);
      // There may be more than was read at once.
      if (marks.length + deeds.length > 0 && !this.asked.once) this.wish();
    } catch (error) {
      // It is looked for again in a moment.
      console.error('live: what is new cannot be read just now:', (error as Error).message);
    }
  }

  /** One name for each, in order; those who have not been heard of are gone. Oneself has another page of it open. */
  private names(): string[] {
    for (const [page, { at }] of this.others) if (Date.now() - at > GONE_MS) this.others.delete(page);
    const names = new Set([...this.others.values()].map(({ name }) => (name === this.access.person ? 'you' : name)));
    return [...names].sort();
  }

  private async beat(): Promise<void> {
    try {
      const now = await accessOf(this.asked.token);
      if (!now || !may(now, 'teach') || now.studio !== this.access.studio) return this.end();
    } catch {
      // The database is away: who was let in stays so until it can be asked.
    }
    this.say('here');
    this.wish();
    // An event, since a page is told nothing of comments.
    this.write('event: still\ndata: here\n\n');
  }

  private write(text: string): void {
    if (this.over) return;
    try {
      this.controller.enqueue(utf8.encode(text));
    } catch {
      this.end();
    }
  }

  end(): void {
    if (this.over) return;
    this.over = true;
    this.stop();
    clearInterval(this.pulse);
    if (!this.asked.once) {
      book()?.follows(-1);
      this.say('gone');
    }
    try {
      this.controller.close();
    } catch {
      // The other side has closed it.
    }
  }
}
