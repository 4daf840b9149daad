import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { recognise } from './recognise.ts';

let folder: string;
let said: string[];
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'zusammen-recognise-'));
  said = [];
  jest.spyOn(console, 'error').mockImplementation((words: string) => void said.push(words));
  jest.spyOn(console, 'log').mockImplementation(() => undefined);
});
afterEach(() => {
  jest.restoreAllMocks();
  rmSync(folder, { recursive: true });
});
const write = (name: string, text: string): void => writeFileSync(join(folder, name), text);
const run = (...more: string[]): number =>
  recognise(['--records', 'a.csv', '--queries', 'b.csv', '--out', 'out.csv', ...more], folder);
const answers = (): string[] => readFileSync(join(folder, 'out.csv'), 'utf8').trim().split('\n');

it('matches one file against another, people and organisations in one, columns found by name', () => {
  write(
    'a.csv',
    '\uFEFFType;ID;First name;last_name;email;name;website;city\n' +
      'person;p1;Małgorzata;Wójcik;gosia.w@wabe.example;;;\n' +
      'organisation;o1;;;;Obsthof Brandt GmbH;www.brandt-obst.example;Jork\n',
  );
  write(
    'b.csv',
    'id,type,first_name,last_name,email,name,website,city\n' +
      'q1,person,Gosia,Wojcik,GOSIA.W@wabe.example,,,\n' +
      'q2,organisation,,,,Obsthof Brandt,https://brandt-obst.example/,Jork\n' +
      'q3,person,Tadeusz,Mazur,tadek@post.example,,,\n',
  );
  expect(run()).toBe(0);
  const [head, ...rows] = answers();
  expect(head).toBe('query_id,record_id,weight,verdict');
  expect(rows.map((row) => row.split(',').filter((_, at) => at !== 2))).toEqual([
    ['q1', 'p1', 'same'],
    ['q2', 'o1', 'same'],
    ['q3', '', 'different'],
  ]);
});

it('says what it does not understand, and writes nothing', () => {
  expect(run()).toBe(2);
  expect(said.join()).toContain('The records can');
  write('a.csv', 'name\nx\n');
  write('b.csv', 'id\nq\n');
  expect(run()).toBe(2);
  expect(said.join()).toContain('The records have no column id.');
  write('a.csv', 'id,last_name\n1,A\n1,B\n');
  expect(run()).toBe(2);
  expect(said.join()).toContain('the id 1 comes twice');
  expect(run('--kind', 'dog')).toBe(2);
  expect(recognise(['--colour'], folder)).toBe(2);
  expect(() => answers()).toThrow();
});
