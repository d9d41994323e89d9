import { fileFilter, unknownGroups } from '../addressees';
import { defineCheck, type FoundProblem } from '../finding';
import { recipientsIn } from '../mail';

type Code = 'mail.left-out' | 'mail.group';

/** Recipients of emails who get none of the files, and groups that they get and the project does not have. */
export const mailRecipients = defineCheck(
  {
    'mail.left-out': ['warning', 'a recipient who gets none of the files of the package'],
    'mail.group': ['warning', 'a recipient who gets a group that the project does not have'],
  },
  (input, { files }) =>
    (input.package.destinations ?? []).flatMap((destination, at) => {
      if (destination.kind !== 'mail') return [];
      const place = { path: `destinations.${at}` };
      return recipientsIn(destination.to, input.project.people).addresses.flatMap((address): FoundProblem<Code>[] => {
        const unknown = unknownGroups(input, address).map((group): FoundProblem<Code> => {
          const sentence = `${address} gets the sheets of ${group}, which is no group of this project; correct it in Settings, People.`;
          return { code: 'mail.group', sentence, place };
        });
        if (files.length === 0 || files.some(fileFilter(input, address))) return unknown;
        const sentence = `${address} gets none of the files; change what they get in Settings, People, or remove them from the destination.`;
        return [...unknown, { code: 'mail.left-out', sentence, place }];
      });
    }),
);
