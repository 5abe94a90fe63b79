import { isBehindTls } from '../utils/sessions'

/** Behind TLS a browser that came once comes by TLS from then on. */
export default defineNitroPlugin((nitro) => {
  if (!isBehindTls()) return
  nitro.hooks.hook('request', event => setHeader(event, 'Strict-Transport-Security', 'max-age=31536000'))
})
