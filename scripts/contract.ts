import { writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import type TypeScript from 'typescript';
import {
  AnyType,
  createFormatter,
  createParser,
  createProgram,
  DefinitionType,
  LiteralType,
  SchemaGenerator,
  UnionType,
  type BaseType,
  type CompletedConfig,
  DEFAULT_CONFIG,
  type SubNodeParser,
} from 'ts-json-schema-generator';

/** The compiler that the generator works with, whose kinds of nodes are its own. */
const own = createRequire(createRequire(import.meta.url).resolve('ts-json-schema-generator'));
const ts = own('typescript') as typeof TypeScript;

/**
 * JSON Schemas of what our API answers and of what its queries may say, out of the types of the contract itself
 * (core/api, `Routes`), by a general-purpose generator. They stand in a file beside what serves them, so that nothing has
 * to be generated when the server starts; a test says when the file is not up to date.
 */
const FILE = join('server', 'http', 'contract.json');

const config: CompletedConfig = {
  ...DEFAULT_CONFIG,
  ...{ path: 'core/api/routes.ts', tsconfig: 'tsconfig.json', type: 'Routes', topRef: true },
  ...{ expose: 'export', jsDoc: 'basic', skipTypeCheck: true, additionalProperties: true, encodeRefs: false },
};

/** A type whose schema stands elsewhere; by its own name, since the generator takes those of one id for one. */
class Elsewhere extends AnyType {
  constructor(private readonly name: string) {
    super();
  }

  override getId(): string {
    return `elsewhere ${this.name}`;
  }
}

/** The schemas of the contract: `Routes` by operation, and the definitions they refer to. */
export function contractSchemas(): { definitions: Record<string, unknown> } {
  const program = createProgram(config);
  const checker = program.getTypeChecker();
  // Documents and bodies are classes with schemas of their own, which know more of them.
  const classes: SubNodeParser = {
    supportsNode: (node) => ts.isClassDeclaration(node as never),
    createType: (node) => {
      const name = (node as unknown as TypeScript.ClassDeclaration).name!.text;
      return new DefinitionType(name, new Elsewhere(name));
    },
  };
  // Names that are gathered from a list of values are what the compiler says they come to.
  const listed: SubNodeParser = {
    supportsNode: (node) => ts.isTypeAliasDeclaration(node as never) && /\btypeof\b/.test(node.getText()),
    createType: (node): BaseType => {
      const type = checker.getTypeAtLocation(node);
      const each = type.isUnion() ? type.types : [type];
      const literals = each.map((one) => new LiteralType((one as unknown as TypeScript.StringLiteralType).value));
      return new DefinitionType(
        (node as unknown as TypeScript.TypeAliasDeclaration).name.text,
        new UnionType(literals),
      );
    },
  };
  const parser = createParser(program, config, (parsers) => {
    parsers.addNodeParser(classes);
    parsers.addNodeParser(listed);
  });
  return new SchemaGenerator(program, parser, createFormatter(config), config).createSchema('Routes') as {
    definitions: Record<string, unknown>;
  };
}

/** Writes the file; `npm run contract`. */
export const writeContract = (): void => writeFileSync(FILE, contractText());

/** What the file has to say. */
export const contractText = (): string => `${JSON.stringify(contractSchemas().definitions, null, 2)}\n`;
