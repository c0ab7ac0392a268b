'use client';

import { KeyRound, Plus } from 'lucide-react';
import { useState } from 'react';
import { LIMITS } from '@/core/util/limits';
import { Button, TextButton } from '@/ui/kit/button';
import { Confirm } from '@/ui/kit/confirm';
import { ProblemNote } from '@/ui/kit/problem';
import { Select } from '@/ui/kit/select';
import { TextField } from '@/ui/kit/text-field';
import { NewPersonForm } from './new-person';
import { PhraseForm } from './phrase-form';
import { ToldOnce, type Told } from './told-once';
import { useDoing } from '@/ui/kit/use-doing';
import { agoInWords } from '@/ui/kit/when';

export interface Me {
  id: string | null;
  isOwner: boolean;
  session: string | null;
}

export interface Person {
  id: string;
  name: string;
  role: 'owner' | 'coach';
  signIn: string | null;
  hasPhrase: boolean;
}

export interface Browser {
  id: string;
  name: string;
  isPlayer: boolean;
  device: string;
  madeAt: string;
  seenAt: string;
}

const ROLES = [
  ['owner', 'owner'],
  ['coach', 'coach'],
] as const;

interface Props {
  me: Me;
  atHome: boolean;
  people: readonly Person[];
  browsers: readonly Browser[];
}

/** Who teaches here, and which browsers are in. */
export function People({ me, atHome, people, browsers }: Props) {
  const doing = useDoing();
  const [told, setTold] = useState<Told | null>(null);
  const [asking, setAsking] = useState<'new' | Person | null>(null);
  async function key(person: Person) {
    const made = await doing.send('POST', `/api/studio/people/${person.id}/key`);
    if (!made) return;
    const note = `It lets in one browser as ${person.name}, once, within ${String(made.minutes)} minutes.${atHome ? ' It leads to this machine only.' : ''}`;
    setTold({ title: `A key for ${person.name}`, url: String(made.url), note });
  }
  return (
    <>
      {doing.problem && <ProblemNote problem={doing.problem} onClose={doing.forget} />}
      <section aria-label="People" className="grid grid-cols-1 gap-2">
        <div className="flex flex-wrap items-center justify-between gap-2">
          <h2 className="text-lg">Who teaches here</h2>
          {me.isOwner && (
            <Button onClick={() => setAsking('new')}>
              <Plus size={15} aria-hidden /> Somebody else
            </Button>
          )}
        </div>
        <ul className="grid grid-cols-1 gap-2">
          {people.map((person) => (
            <PersonCard
              key={person.id}
              person={person}
              me={me}
              onName={(name) => void doing.send('PUT', person.id === me.id ? '/api/studio/me' : `/api/studio/people/${person.id}`, { name })}
              onRole={(role) => void doing.send('PUT', `/api/studio/people/${person.id}`, { role })}
              onKey={() => void key(person)}
              onPhrase={() => setAsking(person)}
              onRemove={() => void doing.send('DELETE', `/api/studio/people/${person.id}`)}
            />
          ))}
        </ul>
        <p className="text-[13px] text-soft">
          An owner may do everything; a coach sees and marks everything, makes players’ links, but lets no teacher in and erases nothing.
        </p>
      </section>
      <Browsers browsers={browsers} me={me} onEnd={(id) => void doing.send('DELETE', `/api/studio/browsers/${id}`)} />
      {told && <ToldOnce told={told} onClose={() => setTold(null)} />}
      {asking === 'new' && <NewPersonForm onClose={() => setAsking(null)} />}
      {asking && asking !== 'new' && <PhraseForm person={asking} isMe={asking.id === me.id} onClose={() => setAsking(null)} />}
    </>
  );
}

interface CardProps {
  person: Person;
  me: Me;
  onName(name: string): void;
  onRole(role: 'owner' | 'coach'): void;
  onKey(): void;
  onPhrase(): void;
  onRemove(): void;
}

function PersonCard({ person, me, onName, onRole, onKey, onPhrase, onRemove }: CardProps) {
  const isMe = person.id === me.id;
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-xl border border-line bg-sheet px-3 py-2">
      <span className="min-w-0 flex-1 basis-48">
        {isMe || me.isOwner ? (
          <TextField label={`Name of ${person.name}`} value={person.name} limit={LIMITS.name} onValue={(name) => name && onName(name)} />
        ) : (
          <strong>{person.name}</strong>
        )}
      </span>
      {me.isOwner ? (
        <Select quiet label={`Role of ${person.name}`} value={person.role} options={ROLES} onValue={onRole} />
      ) : (
        <span className="text-soft">{person.role}</span>
      )}
      {isMe && <span className="text-soft">you</span>}
      {(isMe || me.isOwner) && (
        <span className="flex flex-wrap items-center gap-3 text-[13px]">
          <Button small onClick={onKey}>
            <KeyRound size={14} aria-hidden /> {isMe ? 'Let in another device' : 'Make a key'}
          </Button>
          <TextButton onClick={onPhrase}>{person.hasPhrase ? `pass phrase of ${person.signIn}` : 'set a pass phrase'}</TextButton>
          {me.isOwner && (
            <Confirm
              trigger={<TextButton className="text-soft">take out</TextButton>}
              question={`Take ${person.name} out of the studio?`}
              yes="Take out"
              onYes={onRemove}
            >
              Their browsers are shut out at once. Their marks stay, with their name.
            </Confirm>
          )}
        </span>
      )}
    </li>
  );
}

function Browsers({ browsers, me, onEnd }: { browsers: readonly Browser[]; me: Me; onEnd(id: string): void }) {
  return (
    <section aria-label="Browsers" className="grid grid-cols-1 gap-2">
      <h2 className="text-lg">Browsers that are in</h2>
      <ul className="grid grid-cols-1 gap-1">
        {browsers.map(({ id, name, isPlayer, device, seenAt }) => (
          <li key={id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1">
            <strong className="min-w-0 truncate">{name}</strong>
            {isPlayer && <span className="text-soft">player</span>}
            <span>{device}</span>
            <span className="text-soft">{id === me.session ? 'this one' : `last seen ${agoInWords(seenAt)}`}</span>
            <span className="grow" />
            {id !== me.session && (
              <TextButton className="text-[13px]" aria-label={`Shut out ${device} of ${name}`} onClick={() => onEnd(id)}>
                shut out
              </TextButton>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
