/** Runs `work` with everything that it started stopped afterwards, whatever happens. */
export async function withCleanUp(work) {
  const stops = []
  let ending = false
  const end = async (code) => {
    if (ending) return
    ending = true
    for (const stop of stops.reverse()) await stop()
    process.exit(code)
  }
  process.on('SIGINT', () => end(130))
  process.on('SIGTERM', () => end(143))
  try {
    const code = await work(stop => stops.push(stop))
    await end(code ?? 0)
  }
  catch (problem) {
    console.error(problem.message, problem.cause?.message ?? '')
    await end(1)
  }
}
