interface SettingFacts {
  key: string;
  /** In forms. */
  caption: string;
  /** What it does, for docs/job-file.md. */
  description: string;
}

/** One of a few values. `value: undefined`: it is not stated. */
export interface Option {
  value: string | number | true | undefined;
  /** In forms. */
  words: string;
}

export interface ChoiceSetting<O extends Option = Option> extends SettingFacts {
  kind: 'choice';
  /** The first one is the default. */
  options: readonly O[];
  /** True where it is always stated. */
  required?: true;
  /** Other values that files may state, with the meaning of the default. */
  alsoAccepted?: readonly string[];
}

export interface NumberSetting extends SettingFacts {
  kind: 'number';
  min: number;
  max: number;
  whole?: true;
  /** A value that means the same as none. */
  neutral?: number;
  /** In forms, for no value. */
  absent: string;
}

/** Patterns of names, of layers for instance. */
export interface PatternsSetting extends SettingFacts {
  kind: 'patterns';
  absent: string;
}

/** Formats of texts with fields. */
const FIELD_FORMATS = ['rule', 'line', 'message'] as const;
type FieldFormat = (typeof FIELD_FORMATS)[number];

/** A text as it is typed; `format` says more of what it holds. */
export interface TextSetting extends SettingFacts {
  kind: 'text';
  maxLength: number;
  /**
   * `date`: YYYY-MM-DD or empty; `time`: HH:MM or empty; `lines`: of several lines. With fields, like a naming rule: `rule` for a path, `line` for
   * a text of one line, `message` for one of several.
   */
  format?: 'date' | 'time' | 'lines' | FieldFormat;
  /** True where it is always stated; then it is empty by default. */
  required?: true;
  /** What a form offers first. */
  initial?: string;
}

/** True for a text with fields, as rules have them. */
export function hasFields(setting: Setting): setting is TextSetting & { format: FieldFormat } {
  return setting.kind === 'text' && (FIELD_FORMATS as readonly unknown[]).includes(setting.format);
}

/** The id of something else, of a pen schedule for instance. */
export interface IdSetting extends SettingFacts {
  kind: 'id';
}

/** One thing that can be set, as data: its type, checks, form row, JSON Schema and docs are made from it. */
export type Setting = ChoiceSetting | NumberSetting | PatternsSetting | TextSetting | IdSetting;

/** Most patterns in one setting. */
export const MAX_PATTERNS = 50;
export const MAX_PATTERN_LENGTH = 200;

type ValueOf<S> = S extends { kind: 'choice'; options: readonly (infer O)[] }
  ? O extends { value: infer V }
    ? Exclude<V, undefined>
    : never
  : S extends { kind: 'number' }
    ? number
    : S extends { kind: 'patterns' }
      ? string[]
      : string;

/** The values of some settings by key; the required ones are always there. */
export type ValuesOf<List extends readonly Setting[]> = {
  [S in Extract<List[number], { required: true }> as S['key']]: ValueOf<S>;
} & {
  [S in Exclude<List[number], { required: true }> as S['key']]?: ValueOf<S>;
};
