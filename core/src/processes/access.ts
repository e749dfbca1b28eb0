/** Whose sellers and managers see a process and its deals; everyone's where no teams are named. Administrators and viewers see all. */
export interface ProcessAccess {
  readonly teams?: readonly string[];
}

/** To whom new deals go that nobody is named for: to whoever begins them, or in turn over the sellers of a team. */
export type Assignment = { readonly by: 'hand' } | { readonly by: 'turn'; readonly team: string };
