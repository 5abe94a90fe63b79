/** The demonstration's term whose registration opens. */
export const TERM = '2027SP'
/** The server that was started for the tests; those that start their own name it. */
export const ADDRESS = process.env.RIDGEWAY_ADDRESS ?? ''

/** The cookies that an answer sets, as the browser sends them back. */
export const cookiesOf = (answer: Response) => answer.headers.getSetCookie().map(line => line.split(';')[0]!).join('; ')

/** One try to sign in; `from` is the address that a proxy saw, where the server trusts one. */
export const trySignIn = (username: string, password: string,
  { address = ADDRESS, from = '', cookie = '' }: { address?: string, from?: string, cookie?: string } = {}) =>
  fetch(`${address}/api/session`, { method: 'POST', body: JSON.stringify({ username, password }),
    headers: { 'content-type': 'application/json', 'origin': address, ...from ? { 'x-forwarded-for': from } : {},
      ...cookie ? { cookie } : {} } })

/** What a refusal says, with its status. */
export const problemOf = async (answer: Response) =>
  ({ status: answer.status, ...await answer.json() as { code: string, title: string, detail: string } })

/** A signed-in client of the real server. */
export class Client {
  private constructor(readonly cookie: string, readonly id: number, readonly username: string, readonly address: string) {}

  static async signIn(username: string, password = 'larkmoor', address = ADDRESS): Promise<Client> {
    const answer = await trySignIn(username, password, { address })
    if (!answer.ok) throw new Error(`${username} could not sign in: ${answer.status}`)
    const cookie = cookiesOf(answer)
    return new Client(cookie, (await answer.json() as { answer: { id: number } }).answer.id, username, address)
  }

  /** The same person, with the same cookie, at another server. */
  at = (address: string) => new Client(this.cookie, this.id, this.username, address)

  call(method: string, path: string, body?: unknown): Promise<Response> {
    return fetch(`${this.address}${path.replace('~', `/api/students/${this.id}`)}`, {
      method,
      headers: { cookie: this.cookie, origin: this.address, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
  }

  /** What a view or an act answers; that of an act without the views that it changed. */
  async json<T>(method: string, path: string, body?: unknown): Promise<T> {
    const answer = await this.call(method, path, body)
    if (!answer.ok) throw new Error(`${this.username} ${method} ${path}: ${answer.status} ${await answer.text()}`)
    const told = await answer.json() as T
    return method === 'GET' ? told : (told as { answer: T }).answer
  }
}

interface Told { version: number, plans: Record<string, number>, catalog: number, here: Record<string, string> }

/** An open page that listens for news of a student. */
export class News {
  heard = ''
  private read = 0
  private constructor(private readonly reader: ReadableStreamDefaultReader<string>) {}

  static async of(client: Client, student: number): Promise<News> {
    const answer = await fetch(`${client.address}/api/students/${student}/news`, { headers: { cookie: client.cookie } })
    if (!answer.ok) throw new Error(`no news: ${answer.status} ${await answer.text()}`)
    return new News(answer.body!.pipeThrough(new TextDecoderStream()).getReader())
  }

  /** The next of the news that a test holds of. */
  async next(holds: (told: Told) => boolean): Promise<Told> {
    for (;;) {
      for (let end = this.heard.indexOf('\n\n', this.read); end >= 0; end = this.heard.indexOf('\n\n', this.read)) {
        const line = this.heard.slice(this.read, end).split('\n').find(text => text.startsWith('data:'))
        this.read = end + 2
        const told = line && JSON.parse(line.slice(5)) as Told
        if (told && holds(told)) return told
      }
      if (await this.more()) throw new Error('the news ended')
    }
  }

  /** Resolves when the server ends them. */
  async end(): Promise<void> {
    while (!await this.more());
  }

  close = () => this.reader.cancel()

  private async more(): Promise<boolean> {
    const { value, done } = await this.reader.read()
    this.heard += value ?? ''
    return done
  }
}
