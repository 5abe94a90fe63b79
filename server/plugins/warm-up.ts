/** A server warms up as soon as it runs; it is ready after that. The thread that registers reads what it needs beside that. */
export default defineNitroPlugin(() => {
  useRegistering().warm()
  void warmedUp()
})
