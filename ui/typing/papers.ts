/** The sheets that a passage is typed from: in this browser until the passage lies on the shelf, then with its piece. */
import { openDB, type DBSchema } from 'idb';
import { z } from 'zod';
import { PAPER_TYPES, paperProblem } from '@/core/formats/paper';
import { LIMITS } from '@/core/util/limits';
import type { Problem } from '@/ui/kit/problem';
import { getJson, readAnswer } from '@/ui/kit/queries';

export interface Paper {
  /** Its id at the server, or its number in this browser. */
  key: string;
  name: string;
  load(): Promise<Blob>;
}

export interface Papers {
  all(): Promise<Paper[]>;
  add(file: File): Promise<Problem | null>;
  remove(key: string): Promise<void>;
}

/** What the file chooser offers. */
export const PAPER_FILES = [...PAPER_TYPES, '.pdf', '.jpg', '.jpeg', '.png', '.webp'].join(',');
export const isPaper = (file: File): boolean => (PAPER_TYPES as readonly string[]).includes(file.type) || /\.(pdf|jpe?g|png|webp)$/i.test(file.name);

const shape = z.object({ papers: z.array(z.object({ id: z.string(), name: z.string() })) });

const madeShape = z.object({ id: z.string() });

const upload = async (pieceId: string, file: File) => {
  const response = await fetch(`/api/pieces/${pieceId}/papers?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file }).catch(() => null);
  return readAnswer(response, madeShape);
};

export const papersOfPiece = (pieceId: string): Papers => ({
  async all() {
    const { papers } = await getJson(`/api/pieces/${pieceId}/papers`, shape);
    return papers.map(({ id, name }) => ({ key: id, name, load: async () => (await fetch(`/api/papers/${id}`)).blob() }));
  },
  async add(file) {
    const made = await upload(pieceId, file);
    return 'problem' in made ? made.problem : null;
  },
  remove: async (key) => void (await fetch(`/api/papers/${key}`, { method: 'DELETE' })),
});

interface Schema extends DBSchema {
  papers: { key: number; value: { draft: string; file: File }; indexes: { draft: string } };
}

const database = () =>
  openDB<Schema>('omaggio-papers', 1, {
    upgrade: (db) => void db.createObjectStore('papers', { autoIncrement: true }).createIndex('draft', 'draft'),
  });

/** Those of a passage that does not lie on the shelf yet. */
export const papersOfDraft = (draft: string): Papers => ({
  async all() {
    const papers = (await database()).transaction('papers').store;
    const found: Paper[] = [];
    for await (const { primaryKey, value } of papers.index('draft').iterate(draft)) {
      found.push({ key: `here-${primaryKey}`, name: value.file.name, load: async () => value.file });
    }
    return found;
  },
  async add(file) {
    if (file.size > LIMITS.fileBytes) {
      return { place: file.name, what: `The file is larger than ${LIMITS.fileBytes / 1_048_576} MB.`, remedy: 'Photograph or scan it with fewer pixels.' };
    }
    const problem = paperProblem(file.name, new Uint8Array(await file.slice(0, 16).arrayBuffer()));
    if (!problem) await (await database()).add('papers', { draft, file });
    return problem;
  },
  remove: async (key) => (await database()).delete('papers', Number(key.slice('here-'.length))),
});

/** What a draft has goes to its piece; what could not stays here and is said. */
export async function layToPiece(draft: string, pieceId: string): Promise<Problem[]> {
  const here = papersOfDraft(draft);
  const problems: Problem[] = [];
  for (const paper of await here.all()) {
    const made = await upload(pieceId, new File([await paper.load()], paper.name));
    if ('value' in made) {
      const view = window.localStorage.getItem(viewPlace(paper.key));
      if (view) window.localStorage.setItem(viewPlace(made.value.id), view);
      window.localStorage.removeItem(viewPlace(paper.key));
      await here.remove(paper.key);
    } else problems.push(made.problem);
  }
  return problems;
}

/** Where this browser remembers which page of a sheet was looked at, how near and how turned. */
export const viewPlace = (key: string): string => `omaggio.paper.${key}`;
