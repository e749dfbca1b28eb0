import type { Role } from '@ladder/contract';

/** Roles as people call them. */
export const ROLE_NAMES: Readonly<Record<Role, string>> = {
  administrator: 'Sales ops',
  manager: 'Manager',
  seller: 'Seller',
  viewer: 'Viewer',
};
