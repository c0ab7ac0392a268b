import { momentInWords } from '@/ui/kit/when';

export interface DoneRow {
  at: string;
  person: string;
  what: string;
  about: string;
}

/** What was done that is no mark, the latest first. Marks have a history of their own on each Desk. */
export function Done({ doings }: { doings: readonly DoneRow[] }) {
  return (
    <section aria-label="What was done" className="grid grid-cols-1 gap-3">
      <p className="max-w-prose">Who came in, who let whom in, what was erased. What was marked, and by whom, stands in the history of each part.</p>
      {doings.length === 0 && <p className="text-soft">Nothing yet.</p>}
      <table className="w-full text-left text-[13px]">
        <thead className="sr-only">
          <tr>
            <th scope="col">When</th>
            <th scope="col">Who</th>
            <th scope="col">What</th>
          </tr>
        </thead>
        <tbody>
          {doings.map(({ at, person, what, about }, i) => (
            <tr key={i} className="border-b border-line align-top">
              <td className="py-1 pr-3 whitespace-nowrap text-soft">{momentInWords(at)}</td>
              <td className="max-w-40 truncate py-1 pr-3 font-semibold">{person}</td>
              <td className="py-1">
                {what} {about}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
