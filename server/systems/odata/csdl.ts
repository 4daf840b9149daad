import { NotUnderstood } from '../system.ts';
import { readJson } from './csdl-json.ts';
import { addAnnotations, type Annotations, type Csdl } from './csdl-model.ts';
import { readXml } from './csdl-xml.ts';

/**
 * Reads a metadata document.
 * @param more further documents of the same service that it refers to: their types and annotations count as its own
 * @throws NotUnderstood when a text is neither form of a metadata document
 */
export function readCsdl(text: string, more: readonly string[] = []): Csdl {
  const csdl = readOne(text);
  for (const each of more) {
    const { types, enums, definitions, elsewhere, sets } = readOne(each);
    for (const [name, type] of types) csdl.types.set(name, type);
    for (const [name, type] of enums) csdl.enums.set(name, type);
    for (const [name, type] of definitions) csdl.definitions.set(name, type);
    for (const [target, annotations] of elsewhere) addAnnotations(csdl, target, annotations);
    csdl.sets.push(...sets.filter(({ name }) => !csdl.sets.some((own) => own.name === name)));
  }
  bringHome(csdl);
  return csdl;
}

function readOne(text: string): Csdl {
  const start = text.replace(/^\uFEFF/, '').trimStart();
  if (start.startsWith('{')) return readJson(start);
  if (/^<(\?xml|[\w-]*:?Edmx)/i.test(start)) return readXml(start);
  throw new NotUnderstood(
    /^<(!doctype html|html)/i.test(start)
      ? 'It answers with a web page, not with OData metadata.'
      : 'Its answer is not OData metadata.',
  );
}

/** Puts annotations that stand elsewhere with what they are about (CSDL 4.01, 14.2); those at the element itself win. */
function bringHome({ types, enums, sets, elsewhere, container, containerName }: Csdl): void {
  if (elsewhere.size === 0) return;
  const home = <T extends { annotations: Annotations }>(element: T | undefined, annotations: Annotations): void => {
    if (element) element.annotations = { ...annotations, ...element.annotations };
  };
  for (const [target, annotations] of elsewhere) {
    const [first = '', second] = target.split('/');
    if (second === undefined) {
      const type = types.get(first);
      if (type) home(type, annotations);
      else if (first === containerName) Object.assign(container, { ...annotations, ...container });
      continue;
    }
    const type = types.get(first);
    const member = enums.get(first)?.members.find(({ name }) => name === second);
    home(type?.properties.find(({ name }) => name === second) ?? member, annotations);
    if (first === containerName)
      home(
        sets.find(({ name }) => name === second),
        annotations,
      );
  }
}
