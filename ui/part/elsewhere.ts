/** Marks that are made from a part's Desk in markings that are not open there: other parts', single players'. */
import { applyChanges, reversed, written, type ChangeSet } from '@/core/marking/change';
import { undoing } from '@/core/marking/history';
import type { Marking } from '@/core/marking/mark';
import { RECORD_VERSION } from '@/core/marking/versions';
import { laterThanBefore } from '@/ui/kit/clock';
import type { PartNamed } from '@/ui/unsent/entry';
import { Log } from '@/ui/unsent/log';
import type { Outbox } from '@/ui/unsent/outbox';
import type { LaneEvent } from '@/ui/unsent/around';
import type { Lane } from './undo-chain';

export interface ElsewhereData {
  markingId: string;
  part: PartNamed;
  /** Those that belong to the chain of the part that is open, oldest first. */
  sets: ChangeSet[];
  /** What is stored where they wrote. */
  there: Marking;
}

/** What was done at once with something in these lanes. */
export const togetherIn = (lanes: readonly Lane[]): Set<string> =>
  new Set(lanes.flatMap(({ stacks }) => [...stacks.undo, ...stacks.redo].flatMap(({ together }) => together ?? [])));

/** One such marking: the sets that the open part's chain has of it, and what stands where they wrote. */
export class ElsewhereMarking {
  readonly log: Log<ChangeSet>;
  private there: Marking;

  constructor(
    private readonly home: PartNamed,
    readonly data: Pick<ElsewhereData, 'markingId' | 'part'> & Partial<ElsewhereData>,
    private readonly outbox: Pick<Outbox, 'add'> | null,
    private readonly names = { newId: () => crypto.randomUUID() as string, now: laterThanBefore },
  ) {
    this.log = new Log(data.sets ?? [], (body) => (body.about === 'marks' ? body.set : null));
    this.there = data.there ?? {};
  }

  /** What the open part's chain has of it. @param together of all that was done at once with something in the part's own lanes */
  lane(together: ReadonlySet<string>): Pick<Lane, 'of' | 'stacks' | 'may'> {
    const isOwn = this.data.part.id === this.home.id;
    return {
      ...(isOwn ? {} : { of: this.data.part.name }),
      stacks: this.log.of((set) => isOwn || set.fromPart === this.home.id || (set.together !== undefined && together.has(set.together))),
      may: (row) => this.may(row as ChangeSet),
    };
  }

  make(set: ChangeSet): void {
    this.there = written(this.there, set.changes);
    this.log.add(set, set.id);
    this.outbox?.add({ about: 'marks', markingId: this.data.markingId, part: this.data.part, set: { ...set, version: RECORD_VERSION } }, set.id);
  }

  /** False where what it did was changed since. */
  private may({ changes }: ChangeSet): boolean {
    return applyChanges(this.there, reversed(changes)).conflicts.length === 0;
  }

  takeBack(set: ChangeSet): ChangeSet {
    const back = undoing(set, this.names.newId(), this.names.now());
    this.make(back);
    return back;
  }

  /** Made before this page was there, and not in what the server gave. */
  catchUp(set: ChangeSet): void {
    if (this.log.knows(set.id)) return;
    this.there = written(this.there, set.changes);
    this.log.add(set, set.id);
  }

  hear(event: LaneEvent): void {
    if (event.is === 'made elsewhere' && event.entry.body.about === 'marks') this.there = written(this.there, event.entry.body.set.changes);
    if (event.is === 'stored elsewhere' && event.body.about === 'marks') this.there = written(this.there, event.body.set.changes);
    if (event.is === 'clash' && event.clash.about === 'marks') this.there = event.clash.marking;
    if (event.is === 'rewritten') {
      const changes = event.entries.flatMap(({ body }) => (body.about === 'marks' ? body.set.changes : []));
      this.there = written(event.base ?? this.there, changes);
    }
    this.log.hear(event);
  }
}
