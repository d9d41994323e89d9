import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'postgresql',
  schema: [
    './src/data/schema.ts',
    './src/data/access-schema.ts',
    './src/data/delivery-schema.ts',
    './src/data/inbox-schema.ts',
    './src/data/webhook-schema.ts',
  ],
  out: './drizzle',
});
