/** Signs one of the demo's people in, for scripts; gives what their requests carry, and the cookie for a browser. */
export async function signIn(url, email = 'runa@millrace.example.org') {
  const own = { 'x-plain-relief': 'script', 'content-type': 'application/json' };
  const answer = await fetch(`${url}/api/session`, {
    method: 'POST',
    headers: own,
    body: JSON.stringify({ email, password: 'demo-millrace' }),
  });
  if (!answer.ok) throw new Error(`${email} cannot sign in: ${await answer.text()}`);
  const [name, value] = answer.headers.getSetCookie()[0].split(';')[0].split('=');
  const send = async (method, path, body) => {
    const said = await fetch(`${url}/api${path}`, {
      method,
      headers: { ...own, cookie: `${name}=${value}` },
      body: body && JSON.stringify(body),
    });
    return said.json();
  };
  return { send, cookie: { name, value, url } };
}
