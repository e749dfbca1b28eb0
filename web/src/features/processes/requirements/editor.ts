import type { Binding, Catalogue, Requirement } from '@ladder/core';
import type { ComponentType } from 'react';

export interface EditorProps<Asked extends Requirement> {
  readonly requirement: Asked;
  readonly onChange: (requirement: Asked) => void;
}

type DataOf<Asked extends Requirement> = Omit<Asked, 'id' | 'level' | 'binds' | 'appliesWhen' | 'message'>;

/** How a kind of requirement is written on the sheet. */
export interface RequirementEditor<Asked extends Requirement = Requirement> {
  readonly kind: Asked['kind'];
  readonly label: string;
  /** How long it binds unless the administrator says otherwise (S14). */
  readonly binds: Binding;
  /** Its own data before anything is chosen. */
  readonly start: (catalogue: Catalogue) => DataOf<Asked>;
  readonly Editor: ComponentType<EditorProps<Asked>>;
}
