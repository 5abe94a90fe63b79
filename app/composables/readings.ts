/**
 * Something that several parts of a page ask for, beside acts that answer with it: in whichever order the answers come, what stands is the
 * newest of them. `take` puts an answer on the page.
 */
export function useReadings<T>(take: (answer: T) => void) {
  let asked = 0
  let taken = 0
  let out = 0

  /**
   * Asks, and takes the answer unless a newer one is here, or the page is about something else by then. Rejects where the asking fails and
   * still matters.
   */
  async function read(ask: () => Promise<T>, stillAsked: () => boolean): Promise<void> {
    const mine = ++asked
    const matters = () => mine > taken && stillAsked()
    out++
    let answer: T
    try {
      answer = await ask()
    }
    catch (error) {
      if (matters()) throw error
      return
    }
    finally {
      out--
    }
    if (!matters()) return
    taken = mine
    take(answer)
  }
  /**
   * Takes what an act answered, instead of all readings that are still on their way. Gives whether there are any: what changed beside the
   * act is then to be read once more.
   */
  function given(answer: T): boolean {
    taken = ++asked
    take(answer)
    return out > 0
  }
  return { read, given }
}
