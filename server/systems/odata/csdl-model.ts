/**
 * A metadata document, the same whether it came as CSDL XML or CSDL JSON (OASIS OData CSDL 4.01): types with their
 * properties, sets, and annotations by qualified term. Aliases are resolved and annotations that stand elsewhere are
 * brought home, so that every name in here is qualified by its namespace.
 */
export interface Csdl {
  types: Map<string, CsdlType>;
  enums: Map<string, CsdlEnum>;
  /** Types that are another one under a name of their own. */
  definitions: Map<string, CsdlFacets>;
  sets: CsdlSet[];
  container: Annotations;
  /** The container's qualified name. */
  containerName: string;
  /** Annotations of other elements, by target: `ns.Type`, `ns.Type/Property`, `ns.Container/Set`. */
  elsewhere: Map<string, Annotations>;
  /** Other documents of the service that this one refers to. */
  references: string[];
}
export interface CsdlType {
  key: string[];
  baseType?: string;
  abstract: boolean;
  properties: CsdlProperty[];
  annotations: Annotations;
}
export interface CsdlFacets {
  type: string;
  maxLength?: number;
  scale?: number;
  annotations: Annotations;
}
export interface CsdlProperty extends CsdlFacets {
  name: string;
  collection: boolean;
  nullable: boolean;
  navigation: boolean;
  /** It has a value where none is given. */
  defaulted: boolean;
  /** Property → property of the type it refers to. */
  constraints: Record<string, string>;
}
export interface CsdlEnum {
  members: { name: string; annotations: Annotations }[];
  flags: boolean;
}
export interface CsdlSet {
  name: string;
  type: string;
  /** Path of a navigation property → set it leads to. */
  bindings: Record<string, string>;
  annotations: Annotations;
}
export type Term = string | number | boolean | null | Term[] | { [key: string]: Term };
export type Annotations = Record<string, Term>;

export const emptyCsdl = (): Csdl => ({
  types: new Map(),
  enums: new Map(),
  definitions: new Map(),
  sets: [],
  container: {},
  containerName: '',
  elsewhere: new Map(),
  references: [],
});

/** Names as a document shortens them: alias → namespace. */
export type Aliases = ReadonlyMap<string, string>;

/** A qualified name, of a type or a term, with its alias resolved; `Collection(…)` is taken off before. */
export function qualified(name: string, aliases: Aliases): string {
  const dot = name.lastIndexOf('.');
  const namespace = dot < 0 ? undefined : aliases.get(name.slice(0, dot));
  return namespace === undefined ? name : `${namespace}${name.slice(dot)}`;
}

/** A term may have a qualifier (`Term#Tablet`), which is for other readers than us; without one it holds for all. */
export const termName = (term: string, aliases: Aliases): string | undefined =>
  term.includes('#') ? undefined : qualified(term, aliases);

/** The target of annotations that stand elsewhere: the alias is in its first segment. */
export function targetName(target: string, aliases: Aliases): string {
  const [first = '', ...rest] = target.split('/');
  return [qualified(first, aliases), ...rest].join('/');
}

export function addAnnotations(csdl: Csdl, target: string, annotations: Annotations): void {
  csdl.elsewhere.set(target, { ...csdl.elsewhere.get(target), ...annotations });
}
