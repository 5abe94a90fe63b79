import { connect, createServer, type Server, type Socket } from 'node:net'

const COMMIT = Buffer.from('\u0003COMMIT')

/** A way to the database that can be cut at the worst moment: as a change is being kept. */
export class Relay {
  /** How often it was cut. */
  cuts = 0
  private moment: 'before' | 'after' | null = null
  private forGood = false
  private readonly sockets = new Set<Socket>()
  private constructor(private readonly server: Server, readonly url: string) {}

  static async before(address: string): Promise<Relay> {
    const to = new URL(address)
    const server = createServer()
    await new Promise<void>(done => server.listen(0, '127.0.0.1', done))
    const here = new URL(address)
    here.port = String((server.address() as { port: number }).port)
    const relay = new Relay(server, here.href)
    server.on('connection', socket => relay.pass(socket, Number(to.port), to.hostname))
    return relay
  }

  /**
   * Cuts the connection of the next commit: before the database hears of it, or after it, before the answer; `forGood` lets nobody through
   * from then on.
   */
  cutAtNextCommit(moment: 'before' | 'after', { forGood = false } = {}) {
    this.moment = moment
    this.forGood = forGood
  }

  close() {
    for (const socket of this.sockets) socket.destroy()
    return new Promise<void>(done => this.server.listening ? this.server.close(() => done()) : done())
  }

  private pass(client: Socket, port: number, host: string) {
    const database = connect(port, host)
    for (const socket of [client, database]) {
      this.sockets.add(socket)
      socket.on('error', () => {})
      socket.on('close', () => this.sockets.delete(socket))
    }
    client.on('close', () => database.end())
    database.on('close', () => client.destroy())
    client.on('data', (data: Buffer) => {
      if (this.moment && data.includes(COMMIT)) {
        const { moment } = this
        this.moment = null
        this.cuts++
        if (this.forGood) this.server.close()
        if (moment === 'before') {
          client.destroy()
          database.destroy()
          return
        }
        // The database keeps the change; nobody hears of it.
        database.removeAllListeners('data')
        database.once('data', () => client.destroy())
      }
      database.write(data)
    })
    database.on('data', data => client.write(data))
  }
}
