import { LONGEST_WAIVER_DAYS, WAIVER_ROLES, type WaiverRole } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { NumberBox } from './NumberBox.tsx';
import { type ProcessDetail, useChangeProcessMutation } from './processesApi.ts';

const NAMES: Readonly<Record<WaiverRole, string>> = {
  manager: 'managers of the deal’s team',
  administrator: 'administrators',
};

interface WaiverRightsSectionProps {
  readonly process: ProcessDetail;
  readonly mayChange: boolean;
}

/** Who decides on waivers, and for how long at most they are granted. */
export function WaiverRightsSection({ process, mayChange }: WaiverRightsSectionProps) {
  const [changeProcess, { error, isLoading }] = useChangeProcessMutation();
  const { waiverRights } = process;
  const set = (change: Partial<ProcessDetail['waiverRights']>) =>
    changeProcess({ id: process.id, body: { waiverRights: { ...waiverRights, ...change } } });
  const choose = (role: WaiverRole, isChosen: boolean) =>
    set({ roles: WAIVER_ROLES.filter((one) => (one === role ? isChosen : waiverRights.roles.includes(one))) });
  return (
    <section>
      <header>
        <h3>
          Waivers <small>for all versions, at once</small>
        </h3>
      </header>
      <fieldset disabled={!mayChange || isLoading}>
        <legend className="form-label">Who decides on them; never who asked</legend>
        {WAIVER_ROLES.map((role) => (
          <Form.Check
            key={role}
            id={`waivers-${role}`}
            label={NAMES[role]}
            checked={waiverRights.roles.includes(role)}
            onChange={(event) => choose(role, event.target.checked)}
          />
        ))}
        <NumberBox
          id="waiver-days"
          label="Granted for at most"
          unit="days"
          value={waiverRights.mostDays}
          min={1}
          max={LONGEST_WAIVER_DAYS}
          onSave={(mostDays) => mostDays !== null && set({ mostDays })}
        />
      </fieldset>
      {waiverRights.roles.length === 0 && <p className="muted small mb-0">Nobody: no waivers are asked for.</p>}
      <ErrorNotice error={error} />
    </section>
  );
}
