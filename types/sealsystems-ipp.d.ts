/** The part that is used of @sealsystems/ipp, which comes without types. */
declare module '@sealsystems/ipp' {
  export type Value = string | number | boolean | readonly Value[] | { readonly [name: string]: Value };
  export type Attributes = Readonly<Record<string, Value>>;

  /** A request or an answer (RFC 8011); a group that is there several times is a list. */
  export interface Message {
    version?: string;
    operation?: string;
    statusCode?: string;
    id?: number;
    'operation-attributes-tag'?: Attributes;
    'job-attributes-tag'?: Attributes | Attributes[];
    'printer-attributes-tag'?: Attributes;
    /** What follows the attributes. */
    data?: Buffer;
  }

  const ipp: {
    /** Throws where an attribute is not known. */
    serialize(message: Message): Buffer;
    /** Throws where bytes are missing, or are none of a message. */
    parse(bytes: Buffer): Message;
  };
  export default ipp;
}
