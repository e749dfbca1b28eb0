import { ACTIVITY_KINDS, type ActivityKind, startOfDay, withMentions } from '@ladder/core';
import type { FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { UseFormReturn } from 'react-hook-form';
import { problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { boxProblem } from '../../parts/form/boxProblem.ts';
import { type BodyForm, useBodyForm } from '../../parts/form/useBodyForm.ts';
import { useGetPeopleQuery } from '../session/sessionApi.ts';
import { COMPOSE_ID, composeKindId } from './composeIds.ts';
import { type DealDetail, useAddActivityMutation } from './dealsApi.ts';

interface Written {
  readonly kind: ActivityKind;
  readonly text: string;
  readonly day: string;
}

/** Writes down what happened: a note, or something that was done. */
export function Compose({ deal }: { deal: DealDetail }) {
  const [addActivity] = useAddActivityMutation();
  const { organisation } = useSession();
  const { data: people } = useGetPeopleQuery();
  const empty: Written = { kind: 'note', text: '', day: organisation.today };
  const activity: BodyForm<Written> = useBodyForm({
    begin: empty,
    schema: (contract) => contract.deal.activity,
    toBody: ({ kind, text, day }) => ({
      kind,
      text: withMentions(text.trim(), people?.items ?? []),
      ...when(day, organisation),
    }),
    send: (body) => addActivity({ deal: deal.id, body }),
    onDone: () => form.reset({ ...empty, kind: form.getValues('kind') }),
  });
  const { form, submit, error } = activity;
  const add = (event: FormEvent) => {
    event.preventDefault();
    if (form.getValues('text').trim() !== '') submit();
  };
  const problem = boxProblem(form, 'text') ?? boxProblem(form, 'day') ?? problemOf(error)?.detail;
  return (
    <Form className="compose" onSubmit={add}>
      <Form.Control
        as="textarea"
        rows={2}
        id={COMPOSE_ID}
        aria-label="Write what happened"
        placeholder="Write what happened…"
        maxLength={20_000}
        isInvalid={Boolean(problem)}
        {...form.register('text')}
      />
      <Form.Control.Feedback type="invalid">{problem}</Form.Control.Feedback>
      <Mention form={form} people={people?.items ?? []} />
      <KindAndDay form={form} today={organisation.today} />
    </Form>
  );
}

interface MentionProps {
  readonly form: UseFormReturn<Written>;
  readonly people: readonly { readonly id: string; readonly name: string }[];
}

/** Puts a colleague's name into the text; whoever is named so, or by hand with an @, hears of it. */
function Mention({ form, people }: MentionProps) {
  const mention = (name: string) => {
    const { text } = form.getValues();
    form.setValue('text', `${text}${text === '' || /\s$/.test(text) ? '' : ' '}@${name} `);
    document.getElementById(COMPOSE_ID)?.focus();
  };
  return (
    <Form.Select
      size="sm"
      className="mention-pick"
      aria-label="Mention a colleague"
      value=""
      onChange={({ target }) => mention(target.value)}
    >
      <option value="">@ mention…</option>
      {people.map(({ id, name }) => (
        <option key={id} value={name}>
          {name}
        </option>
      ))}
    </Form.Select>
  );
}

function KindAndDay({ form, today }: { form: UseFormReturn<Written>; today: string }) {
  const { kind, text } = form.watch();
  return (
    <div role="radiogroup" aria-label="Kind of activity">
      {ACTIVITY_KINDS.map((one) => (
        <label key={one} className={one === kind ? 'on' : ''}>
          <input type="radio" id={composeKindId(one)} value={one} {...form.register('kind')} />
          {one}
        </label>
      ))}
      <Form.Control type="date" size="sm" aria-label="Done on" required max={today} {...form.register('day')} />
      <Button
        type="submit"
        size="sm"
        variant="outline-secondary"
        disabled={form.formState.isSubmitting || text.trim() === ''}
      >
        Add
      </Button>
    </div>
  );
}

const NOON_MS = 12 * 3_600_000;

/** What was done today is done now; of an earlier day its noon is taken. */
const when = (day: string, { today, timeZone }: { readonly today: string; readonly timeZone: string }) =>
  day === today || day === '' ? {} : { happenedAt: new Date(startOfDay(day, timeZone) + NOON_MS).toISOString() };
