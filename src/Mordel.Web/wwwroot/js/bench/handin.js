/** Hands a recording in; answers where its marks are, or throws what the server says against it. */
export async function send(recording, { assignment, token }) {
  const answer = await fetch('/api/bench/attempts', {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'X-Mordel-Token': token },
    body: `{"assignment":${JSON.stringify(assignment || null)},"tape":${recording}}`,
  });
  const said = await answer.json().catch(() => ({}));
  if (!answer.ok)
    throw new Error(
      [said.error, ...(said.faults ?? []).map(f => `${f.place}: ${f.says}`)].filter(Boolean).join(' ') ||
        `The server answered ${answer.status}.`,
    );
  return said.at;
}
