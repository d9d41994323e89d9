import { sep } from 'node:path';
import ts from 'typescript';
import { Trouble } from './say.mjs';

const { TypeFlags, SymbolFlags } = ts;

/**
 * JSON schemas (2020-12) of the types of a TypeScript program, as they are in JSON: objects have no properties but their
 * own. Types that have a name below `folder` are written once, and referred to as `<base>/<name>`.
 */
export class TypeSchemas {
  #checker;
  #exports;
  #named = new Map();

  /** `entry`: the file that exports the types which are asked for. */
  constructor(entry, options, folder, base) {
    const program = ts.createProgram([entry], options);
    this.#checker = program.getTypeChecker();
    this.folder = folder + sep;
    this.base = base;
    const module = this.#checker.getSymbolAtLocation(program.getSourceFile(entry));
    this.#exports = new Map(this.#checker.getExportsOfModule(module).map((symbol) => [symbol.name, symbol]));
  }

  /** A reference to a type that the entry exports, or a list of them where `[]` follows the name. */
  of(name) {
    if (name.endsWith('[]')) return { type: 'array', items: this.of(name.slice(0, -2)) };
    const symbol = this.#exports.get(name);
    if (!symbol) throw new Trouble(`There is no type ${name}.`);
    const declared = symbol.flags & SymbolFlags.Alias ? this.#checker.getAliasedSymbol(symbol) : symbol;
    return this.#reference(name, declared, this.#checker.getDeclaredTypeOfSymbol(declared));
  }

  /** All types with names that were met, by name. */
  all() {
    const sorted = [...this.#named].sort(([a], [b]) => (a < b ? -1 : 1));
    return Object.fromEntries(sorted.map(([name, { schema }]) => [name, schema]));
  }

  #reference(name, symbol, type) {
    const known = this.#named.get(name);
    if (known && known.symbol !== symbol) throw new Trouble(`Two types are called ${name}; give one another name.`);
    if (!known) {
      // Kept before it is worked out, for types that hold themselves.
      const kept = { symbol };
      this.#named.set(name, kept);
      kept.schema = { ...this.#description(symbol), ...this.#written(type) };
    }
    return { $ref: `${this.base}/${name}` };
  }

  #schema(type) {
    const symbol = type.aliasSymbol ?? (type.flags & TypeFlags.Object ? type.symbol : undefined);
    const isGeneric = (type.aliasSymbol ? type.aliasTypeArguments : this.#argumentsOf(type))?.length > 0;
    if (symbol && !isGeneric && this.#isNamed(symbol)) return this.#reference(symbol.name, symbol, type);
    return this.#written(type);
  }

  #isNamed(symbol) {
    const kinds = SymbolFlags.Interface | SymbolFlags.TypeAlias;
    return (symbol.flags & kinds) !== 0 && symbol.declarations.some((one) => this.#isOwn(one.getSourceFile()));
  }

  #isOwn({ fileName }) {
    return fileName.startsWith(this.folder) && !fileName.includes(`${sep}node_modules${sep}`);
  }

  #argumentsOf(type) {
    return type.target ? this.#checker.getTypeArguments(type) : [];
  }

  #written(type) {
    const { flags } = type;
    if (flags & (TypeFlags.Any | TypeFlags.Unknown)) return {};
    if (flags & TypeFlags.Null) return { type: 'null' };
    if (flags & TypeFlags.BooleanLiteral) return { const: type.intrinsicName === 'true' };
    if (flags & (TypeFlags.StringLiteral | TypeFlags.NumberLiteral)) return { const: type.value };
    if (flags & TypeFlags.StringLike) return { type: 'string' };
    if (flags & TypeFlags.NumberLike) return { type: 'number' };
    if (flags & TypeFlags.Boolean) return { type: 'boolean' };
    if (type.isUnion()) return this.#union(type.types.filter((one) => !(one.flags & TypeFlags.Undefined)));
    if (this.#checker.isTupleType(type)) return this.#tuple(type);
    if (this.#checker.isArrayType(type)) return { type: 'array', items: this.#schema(this.#argumentsOf(type)[0]) };
    const isFunction = this.#checker.getSignaturesOfType(type, ts.SignatureKind.Call).length > 0;
    if (!isFunction && flags & (TypeFlags.Object | TypeFlags.Intersection)) return this.#object(type);
    throw new Trouble(`JSON has nothing like the type ${this.#checker.typeToString(type)}.`);
  }

  #union(types) {
    const literals = types.filter((one) => one.flags & TypeFlags.Literal);
    const others = types.filter((one) => !(one.flags & TypeFlags.Literal));
    // Null reads best at the end.
    others.sort((a, b) => (a.flags & TypeFlags.Null) - (b.flags & TypeFlags.Null));
    const rest = others.map((one) => this.#schema(one));
    const values = literals.map((one) => this.#written(one).const);
    const isBoolean = values.includes(true) && values.includes(false);
    const written = values.filter((value) => !isBoolean || typeof value !== 'boolean');
    const parts = [
      ...(isBoolean ? [{ type: 'boolean' }] : []),
      ...(written.length > 0 ? [{ enum: written.sort() }] : []),
      ...rest,
    ];
    return parts.length === 1 ? parts[0] : { anyOf: parts };
  }

  #tuple(type) {
    const prefixItems = this.#argumentsOf(type).map((one) => this.#schema(one));
    return { type: 'array', prefixItems, minItems: prefixItems.length, maxItems: prefixItems.length };
  }

  #object(type) {
    const properties = {};
    const required = [];
    for (const property of this.#checker.getPropertiesOfType(type)) {
      const own = this.#checker.getTypeOfSymbol(property);
      // What can be nothing but undefined is not in JSON.
      if (own.flags & TypeFlags.Undefined) continue;
      properties[property.name] = { ...this.#description(property), ...this.#schema(own) };
      if (!(property.flags & SymbolFlags.Optional) && !this.#mayBeUndefined(own)) required.push(property.name);
    }
    const [index] = this.#checker.getIndexInfosOfType(type);
    return {
      type: 'object',
      ...(Object.keys(properties).length > 0 && { properties }),
      ...(required.length > 0 && { required }),
      additionalProperties: index ? this.#schema(index.type) : false,
    };
  }

  #mayBeUndefined(type) {
    return type.isUnion() && type.types.some((one) => one.flags & TypeFlags.Undefined);
  }

  #description(symbol) {
    const text = ts.displayPartsToString(symbol.getDocumentationComment(this.#checker)).replaceAll('\n', ' ').trim();
    return text === '' ? {} : { description: text };
  }
}
