import type { Role, TokenScope } from '@folvex/contract';

/** Roles in words. */
export const ROLE_WORDS: Readonly<Record<Role, { name: string; may: string }>> = {
  reader: { name: 'Reader', may: 'You may look at everything and download it.' },
  drafter: { name: 'Drafter', may: 'You may edit and publish.' },
  lead: { name: 'Lead', may: 'You may edit, publish, issue, choose destinations, remove, and invite others.' },
};

export const SCOPE_WORDS: Readonly<Record<TokenScope, string>> = {
  read: 'Look and download',
  publish: 'Edit and publish',
};
