import type { ProcessId, VersionId } from '@ladder/core';
import {
  type Calendar,
  type ChangedRequirements,
  type Deal,
  type DealRecord,
  type Field,
  type HouseRules,
  OPEN_ENDED,
  type ProcessDocument,
  type Reason,
  type Values,
} from '@ladder/core';
import type { Role } from './people.ts';

/** The password of every person of the demo company, which is loaded on a private database only. */
export const DEMO_PASSWORD = 'glasshouse';

interface Named {
  readonly id: string;
  readonly name: string;
}

export interface BookPerson extends Named {
  readonly email: string;
  readonly title: string;
  readonly role: Role;
  readonly teams: readonly string[];
}

export interface BookProcess {
  readonly id: ProcessId;
  readonly name: string;
  readonly kind: ProcessDocument['kind'];
  readonly calendar: string;
  readonly houseRules: HouseRules;
  readonly reasons: readonly Reason[];
}

export interface BookVersion {
  readonly id: VersionId;
  readonly process: ProcessId;
  readonly number: number;
  readonly state: 'live' | 'superseded';
  readonly document: ProcessDocument;
  readonly fields: readonly Field[];
  readonly grace: { readonly until: number; readonly changed: Readonly<Record<string, ChangedRequirements>> } | null;
  readonly publishedAt: number;
  readonly publishedBy: string;
}

/** A template of messages that all processes share; it goes to the deal's owner where it names no field of the contact. */
export interface BookTemplate extends Named {
  readonly toField: string | null;
  readonly subject: string;
  readonly body: string;
}

/** Everything of an organisation but its deals. */
export interface BookCompany {
  readonly organisation: {
    readonly name: string;
    readonly timeZone: string;
    readonly currency: string;
    readonly demo: boolean;
  };
  readonly calendars: readonly (Named & Pick<Calendar, 'workingWeekdays'>)[];
  readonly teams: readonly Named[];
  readonly documentKinds: readonly Named[];
  readonly templates: readonly BookTemplate[];
  readonly people: readonly BookPerson[];
  /** With which everyone signs in at first. */
  readonly password: string;
  readonly fields: readonly Field[];
  readonly processes: readonly BookProcess[];
  readonly versions: readonly BookVersion[];
  readonly customers: readonly (Named & { readonly values: Values })[];
}

/** A deal as it is, with what was recorded of it from its beginning on. */
export interface BookDeal {
  readonly deal: Deal;
  readonly records: readonly DealRecord[];
}

/** What a book is made of: the company first, then deal by deal, and an end without which it was cut off. */
export type BookPart =
  | ({ readonly part: 'company' } & BookCompany)
  | ({ readonly part: 'deal' } & BookDeal)
  | { readonly part: 'end' };

/** A part as a line of JSON; an end that never comes has no number there, and is null. */
export const writeBookPart = (part: BookPart): string => `${JSON.stringify(part)}\n`;

/** A line of a book that this program wrote. */
export function readBookPart(line: string): BookPart {
  const part = JSON.parse(line) as BookPart;
  if (part.part !== 'deal') return part;
  const findings = part.deal.findings.map((finding) => ({ ...finding, closedAt: finding.closedAt ?? OPEN_ENDED }));
  const states = part.deal.states.map((state) => ({ ...state, to: state.to ?? OPEN_ENDED }));
  return { ...part, deal: { ...part.deal, findings, states } };
}
