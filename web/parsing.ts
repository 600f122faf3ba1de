/** Before any schema is made: no code is made from text here, the page's security policy forbids it. */

import { config } from 'zod'

config({ jitless: true })
