/** The server as it ships, for the tests that start it as a process of its own: built anew, so that it is never an old one. */

import { buildServer } from '../../scripts/buildServer.mjs'

export default buildServer
