/** What is made of an object, made once for each and remembered for as long as the object is; nobody changes either afterwards. */
export function remembered<Of extends object, Made>(make: (of: Of) => Made): (of: Of) => Made {
  const known = new WeakMap<Of, Made>()
  return (of) => {
    if (!known.has(of)) known.set(of, make(of))
    return known.get(of)!
  }
}
