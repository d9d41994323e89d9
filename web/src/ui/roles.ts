import type { Role, TokenScope } from '@folvex/contract';

/** Roles in words. */
export const ROLE_WORDS: Readonly<Record<Role, { name: string; may: string }>> = {
  reader: { name: 'Reader', may: 'You can view and download everything.' },
  drafter: { name: 'Drafter', may: 'You can edit and publish.' },
  lead: { name: 'Lead', may: 'You can edit, publish, issue, choose destinations, remove things and invite others.' },
};

export const SCOPE_WORDS: Readonly<Record<TokenScope, string>> = {
  read: 'View and download',
  publish: 'Edit and publish',
};
