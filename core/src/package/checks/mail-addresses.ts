import { defineCheck } from '../finding';
import { mailFaults } from '../mail';

/** Emails without a sender or recipient, or with one whose address cannot be one. */
export const mailAddresses = defineCheck(
  {
    'mail.address': ['stop', 'a sender or recipient of an email that is not an email address'],
    'mail.nobody': ['stop', 'an email without a recipient or a sender'],
  },
  ({ package: { destinations = [] }, project: { people } }) =>
    destinations.flatMap((destination, at) =>
      destination.kind === 'mail'
        ? mailFaults(destination, people).map((fault) => ({ ...fault, place: { path: `destinations.${at}` } }))
        : [],
    ),
);
