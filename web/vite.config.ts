import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react()],
  test: { environment: 'node', include: ['src/**/*.test.{ts,tsx}'] },
  // One page of the documentation is a page of the application, too.
  server: { proxy: { '/api': 'http://localhost:5080' }, fs: { allow: ['..'] } },
})
