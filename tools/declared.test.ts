/** Every workspace declares what it imports: its sources in `dependencies`, its tests and tools there or in `devDependencies`. */
import { readdirSync, readFileSync } from 'node:fs';
import { isBuiltin } from 'node:module';
import { join } from 'node:path';

const root = join(__dirname, '..');

const files = (dir: string): string[] =>
  readdirSync(dir, { withFileTypes: true }).flatMap((e) => {
    if (e.name === 'node_modules' || e.name === 'dist') return [];
    return e.isDirectory() ? files(join(dir, e.name)) : /\.(ts|tsx|mjs)$/.test(e.name) ? [join(dir, e.name)] : [];
  });

/** Packages that a file imports, by name. */
function packagesOf(text: string): string[] {
  const found = [...text.matchAll(/(?:from|import) '([^'.][^']*)'|(?:import|require\.resolve|require)\('([^'.][^']*)'\)/g)].map((m) => (m[1] ?? m[2] ?? '').split('/'));
  return found.filter((p) => !isBuiltin(p.join('/'))).map((p) => (p[0]!.startsWith('@') ? `${p[0]!}/${p[1]!}` : p[0]!));
}

test.each(['core', 'server', 'web', 'demo', 'e2e'])('%s declares what it imports', (workspace) => {
  const own = JSON.parse(readFileSync(join(root, workspace, 'package.json'), 'utf8')) as { name: string; dependencies?: object; devDependencies?: object };
  const [run, all] = [{ ...own.dependencies }, { ...own.dependencies, ...own.devDependencies }];
  const missing: string[] = [];
  for (const file of files(join(root, workspace))) {
    const declared = file.includes(join(workspace, 'src')) ? run : all;
    for (const name of packagesOf(readFileSync(file, 'utf8'))) if (name !== own.name && !Object.hasOwn(declared, name)) missing.push(`${file.slice(root.length + 1)}: ${name}`);
  }
  expect(missing).toEqual([]);
});
