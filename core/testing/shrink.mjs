// The smallest document found that still fails in the same way: fields and entries are taken out, numbers made plain, as long as
// that goes on.

/** Every way of making a value a little simpler. */
function* simpler(value) {
  if (Array.isArray(value)) {
    for (let i = 0; i < value.length; i++) yield value.filter((_, at) => at !== i);
    for (let i = 0; i < value.length; i++)
      for (const inner of simpler(value[i])) yield value.map((old, at) => (at === i ? inner : old));
  } else if (typeof value === 'object' && value !== null) {
    for (const key of Object.keys(value)) yield Object.fromEntries(Object.entries(value).filter(([name]) => name !== key));
    for (const key of Object.keys(value)) for (const inner of simpler(value[key])) yield { ...value, [key]: inner };
  } else if (typeof value === 'number') {
    for (const other of [0, 1, Math.round(value), Number(value.toFixed(1))]) if (other !== value && Math.abs(other) <= Math.abs(value)) yield other; // prettier-ignore
  } else if (typeof value === 'string' && value.length > 1) {
    yield value[0];
    yield value.slice(0, Math.ceil(value.length / 2));
  } else if (value === true) yield false;
}

/** @param judge gives what is found of a document @param what the finding that is to stay */
export async function shrunk(document, what, judge, most = 400) {
  let best = document;
  for (let tries = 0, isSmaller = true; isSmaller && tries < most;) {
    isSmaller = false;
    for (const smaller of simpler(best)) {
      if (++tries > most) break;
      const { findings } = await judge(smaller);
      if (findings[0]?.what !== what) continue;
      best = smaller;
      isSmaller = true;
      break;
    }
  }
  return best;
}
