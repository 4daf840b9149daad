import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

it('npm hands its signals to the program itself: no shell stands between them that would die alone', () => {
  const { scripts } = JSON.parse(readFileSync('package.json', 'utf8')) as { scripts: Record<string, string> };
  for (const name of ['start', 'test']) {
    expect(scripts[name]).toMatch(/^exec node /);
    // What npm runs is a shell that has become the program.
    const seen = execFileSync('sh', ['-c', scripts[name]!.replace(/node .*/, 'node -p process.ppid')], {
      encoding: 'utf8',
    });
    expect(Number(seen)).toBe(process.pid);
  }
});
