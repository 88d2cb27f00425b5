import vue from '@vitejs/plugin-vue'
import { fileURLToPath, URL } from 'node:url'
import { defineConfig } from 'vitest/config'

// The Go server is at JANTREL_ADDR while developing; `make dev` starts both.
const server = `http://${process.env.JANTREL_ADDR ?? '127.0.0.1:8080'}`

export default defineConfig({
  plugins: [vue({ template: { compilerOptions: { isCustomElement: (tag) => tag === 'rapi-doc' } } })],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    // One level down, so that emptying it leaves the file that keeps dist in git.
    outDir: 'dist/page',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1000,
    rollupOptions: { input: { index: 'index.html', 'api-docs': 'api-docs.html' } },
  },
  server: { proxy: { '/api': server } },
  test: {
    include: ['src/**/*.test.ts'],
    // What needs a document says so in its first line. Making one takes longer than most tests, so that a process keeps
    // its document, and what it has loaded, from file to file; what a test puts in the place of something is undone.
    environment: 'node',
    isolate: false,
    unstubGlobals: true,
    restoreMocks: true,
    testTimeout: 30_000,
    hookTimeout: 30_000,
  },
})
