import { readSession } from '#shared/contract/views/college'

export default serveView(readSession, ({ visitor, at, college }) => ({
  account: visitor && { id: visitor.id, name: visitor.name, username: visitor.username, role: visitor.role },
  now: at,
  zone: college.zone,
  demo: process.env.RIDGEWAY_DEMO === '1',
}))
