/** An address that no route has; pages stand elsewhere. */
export default answering(() => Promise.reject(nothingHere()))
