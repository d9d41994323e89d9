/**
 * `work` with the last result of each item kept, and used again while the other inputs are the same: of thousands of
 * rows, only those that changed are worked out anew.
 */
export function remembered<T extends object, A extends readonly unknown[], R>(
  work: (item: T, ...inputs: A) => R,
): (item: T, ...inputs: A) => R {
  const known = new WeakMap<T, { inputs: A; result: R }>();
  return (item, ...inputs) => {
    const last = known.get(item);
    if (last && inputs.every((input, at) => input === last.inputs[at])) return last.result;
    const result = work(item, ...inputs);
    known.set(item, { inputs, result });
    return result;
  };
}
