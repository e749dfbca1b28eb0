/** The types a field of the catalogue can have. */
export const FIELD_TYPES = [
  'text',
  'long_text',
  'number',
  'money',
  'date',
  'yes_no',
  'choice',
  'choices',
  'person',
  'link',
  'calculated',
  'customer',
  'contact',
  'team',
] as const;
export type FieldType = (typeof FIELD_TYPES)[number];

/** Types an administrator may give to a new field; the others belong to built-in fields. */
export const OWN_FIELD_TYPES = FIELD_TYPES.slice(0, 11) as unknown as readonly Exclude<
  FieldType,
  'customer' | 'contact' | 'team'
>[];

export const FIELD_HOLDERS = ['deal', 'customer', 'contact'] as const;
export type FieldHolder = (typeof FIELD_HOLDERS)[number];

export interface Choice {
  readonly id: string;
  readonly name: string;
  /** Kept where used, no longer offered. */
  readonly withdrawn?: boolean;
}

/** Arithmetic over number and money fields (S29). */
export type Formula =
  | { readonly kind: 'number'; readonly value: number }
  | { readonly kind: 'field'; readonly field: string }
  | { readonly kind: 'add' | 'subtract' | 'multiply' | 'divide'; readonly left: Formula; readonly right: Formula };

export interface Field {
  readonly id: string;
  readonly name: string;
  readonly holder: FieldHolder;
  readonly type: FieldType;
  readonly help?: string;
  readonly unit?: string;
  readonly min?: number;
  readonly max?: number;
  /** Of a date, where it may lie elsewhere than dates of deals do. */
  readonly firstDay?: string;
  readonly lastDay?: string;
  readonly choices?: readonly Choice[];
  readonly formula?: Formula;
  readonly builtIn?: boolean;
}

/** Fields by id, as a version was published with them. */
export type Catalogue = ReadonlyMap<string, Field>;

/** Fields by id. */
export const catalogueOf = (fields: readonly Field[]): Catalogue => new Map(fields.map((field) => [field.id, field]));

/** The fields every deal has, in the same catalogue as the administrator's own. */
export const BUILT_IN_FIELDS: readonly Field[] = [
  { id: 'customer', name: 'Customer', holder: 'deal', type: 'customer', builtIn: true },
  { id: 'contact', name: 'Contact', holder: 'deal', type: 'contact', builtIn: true },
  { id: 'value', name: 'Value', holder: 'deal', type: 'money', min: 0, builtIn: true },
  { id: 'own_chance', name: 'Own chance', holder: 'deal', type: 'number', unit: '%', min: 0, max: 100, builtIn: true },
  { id: 'close_date', name: 'Close date', holder: 'deal', type: 'date', builtIn: true },
  { id: 'owner', name: 'Owner', holder: 'deal', type: 'person', builtIn: true },
  { id: 'team', name: 'Team', holder: 'deal', type: 'team', builtIn: true },
  { id: 'source', name: 'Source', holder: 'deal', type: 'text', builtIn: true },
  { id: 'next_action', name: 'Next action', holder: 'deal', type: 'text', builtIn: true },
  { id: 'next_action_day', name: 'Next action due', holder: 'deal', type: 'date', builtIn: true },
];
