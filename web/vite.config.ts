import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react()],
  // How long a test takes says nothing where the machine is busy.
  test: { environment: 'node', include: ['src/**/*.test.{ts,tsx}'], testTimeout: 60_000 },
  // One page of the documentation is a page of the application, too.
  server: { proxy: { '/api': 'http://localhost:5080' }, fs: { allow: ['..'] } },
})
