// What the benchmarks of pages and entries share: a server on a filled installation, who signs in, what it costs.
import { readFileSync } from 'node:fs';
import { freePort, startServer } from '../tests/EndToEnd/browser.mjs';

// As an installation runs, and not as the journeys' servers do.
process.env.MORDEL_MEASURED = 'yes';

/** The data folder and what stands behind it on the command line; says how it is called when it is not. */
export function asked(usage) {
  const [data, ...more] = process.argv.slice(2);
  if (data) return [data, ...more];
  console.error(usage);
  process.exit(2);
}

/**
 * The server on a data folder, without the nightly check of all seals, which works for an hour on a million runs.
 * processor() is the milliseconds of processor that it has used.
 */
export async function serverOn(data, more = []) {
  // The rows may lie on a server.
  const stored = process.env.MORDEL_STORE ? ['--Mordel:StoredAt', process.env.MORDEL_STORE] : [];
  const port = await freePort();
  const server = await startServer({ data, port, more: ['--Mordel:WatchSeals', 'false', ...stored, ...more] });
  const processor = () => {
    const stat = readFileSync(`/proc/${server.child.pid}/stat`, 'utf8').split(') ')[1].split(' ');
    return (Number(stat[11]) + Number(stat[12])) * 10;
  };
  return { ...server, processor };
}

/** The cookies that an answer sets, behind those there are. */
export const jarOf = (answer, jar = []) => [...jar, ...answer.headers.getSetCookie().map(c => c.split(';')[0])];

/** The token in a form. */
export const tokenIn = text => text.match(/__RequestVerificationToken" type="hidden" value="([^"]+)"/)[1];

/** The ids on the page to sign in that stand before a note. */
export const personas = (text, note) =>
  [...text.matchAll(new RegExp(`value="([0-9a-f-]{36})"[^]{0,300}?${note}`, 'g'))].map(([, id]) => id);

/** Signs in; the cookies. who(page) says the id. */
export async function signIn(url, who) {
  const door = await fetch(`${url}/sign-in`);
  const text = await door.text();
  const jar = jarOf(door);
  const answer = await fetch(`${url}/sign-in?handler=As`, {
    method: 'POST',
    redirect: 'manual',
    headers: { cookie: jar.join('; '), 'content-type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ id: who(text), __RequestVerificationToken: tokenIn(text) }),
  });
  if (answer.status !== 302) throw new Error(`nobody could sign in: ${answer.status}`);
  return jarOf(answer, jar);
}

/** The time below which a share of all lie. */
export const at = (times, share) =>
  times.sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0;
