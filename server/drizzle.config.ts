import { defineConfig } from 'drizzle-kit'

export default defineConfig({
  dialect: 'postgresql',
  schema: [
    './server/database/schema.ts',
    './server/database/accessSchema.ts',
    './server/database/tonightSchema.ts',
    './server/database/roundSchema.ts',
  ],
  out: './server/database/migrations',
})
