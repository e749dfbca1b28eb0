import { DealField } from './DealField.tsx';
import type { DealDetail } from './dealsApi.ts';

/** The fields that say what somebody will do next about a deal. */
export const NEXT_ACTION_FIELDS: readonly string[] = ['next_action', 'next_action_day'];

/** What comes next, and by when. */
export function NextActionPart({ deal }: { deal: DealDetail }) {
  if (deal.status.state !== 'open') return null;
  return (
    <div className="next-action">
      {NEXT_ACTION_FIELDS.flatMap((id) => deal.fields.find((field) => field.id === id) ?? []).map((field) => (
        <DealField key={field.id} id={`next-${field.id}`} field={field} deal={deal} label="shown" />
      ))}
    </div>
  );
}
