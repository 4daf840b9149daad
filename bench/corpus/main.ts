import { fetchPackages } from './fetch.ts';
import { FROM_DEBIAN, FROM_NPM } from './packages.ts';

/** `npm run corpus`: fetches the packages whose pages the benchmark of suggestions reads, and lists them. */
export async function fetchCorpus(): Promise<void> {
  const missing = await fetchPackages();
  for (const { name, version } of [...FROM_NPM, ...FROM_DEBIAN])
    console.log(`${missing.has(name) ? 'not to be had' : 'there'}  ${name} ${version}  ${missing.get(name) ?? ''}`);
}
