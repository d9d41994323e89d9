import * as yup from 'yup';
import { MAX_PERSON_NAME, MAX_TOKEN_DAYS, PASSWORD_LENGTH, ROLES, TOKEN_SCOPES } from './access';
import { text } from './limited-text';

const email = text(200).matches(/^\s*[^@\s]+@[^@\s]+\s*$/, 'An email address has the form name@office.example.');
const personName = text(MAX_PERSON_NAME).matches(/\S/, 'Enter a name; others see it.');
/** A password that is set; one that is only compared may be of any length. */
export const newPasswordSchema = text(PASSWORD_LENGTH.max).min(
  PASSWORD_LENGTH.min,
  `A password needs at least ${PASSWORD_LENGTH.min} characters; a few words in a row will do.`,
);

export const signInSchema = yup
  .object({ email, password: text(PASSWORD_LENGTH.max) })
  .noUnknown()
  .strict();

/** Accepting an invitation; the address only where the invitation has none. */
export const joinSchema = yup
  .object({ email: email.optional().default(undefined), name: personName, password: newPasswordSchema })
  .noUnknown()
  .strict();

export const passwordChangeSchema = yup
  .object({ was: text(PASSWORD_LENGTH.max), password: newPasswordSchema })
  .noUnknown()
  .strict();

export const invitationSchema = yup
  .object({ email, role: yup.string().oneOf(ROLES).required() })
  .noUnknown()
  .strict();

/** `null`: no longer a member. */
export const memberChangeSchema = yup
  .object({ role: yup.string().oneOf(ROLES).nullable().defined() })
  .noUnknown()
  .strict();

export const accountChangeSchema = yup
  .object({ isOwner: yup.boolean().strict(), closed: yup.boolean().strict() })
  .noUnknown()
  .strict();

export const newTokenSchema = yup
  .object({
    name: text(60).matches(/\S/, 'A token needs a name, so that it can be told from others.'),
    scope: yup
      .string()
      .oneOf(Object.keys(TOKEN_SCOPES) as (keyof typeof TOKEN_SCOPES)[])
      .required(),
    days: yup.number().strict().integer().min(1).max(MAX_TOKEN_DAYS).required(),
  })
  .noUnknown()
  .strict();
