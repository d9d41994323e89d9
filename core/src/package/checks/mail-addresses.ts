import { defineCheck } from '../finding';
import { mailFaults } from '../mail';

/** Mails that would have no recipient, or none that can be reached. */
export const mailAddresses = defineCheck(
  {
    'mail.address': ['stop', 'a text of a mail that is to be an address and is none'],
    'mail.nobody': ['stop', 'a mail without a recipient or a sender'],
  },
  ({ package: { destinations = [] }, project: { people } }) =>
    destinations.flatMap((destination, at) =>
      destination.kind === 'mail'
        ? mailFaults(destination, people).map((fault) => ({ ...fault, place: { path: `destinations.${at}` } }))
        : [],
    ),
);
