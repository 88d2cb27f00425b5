import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import typescript from 'typescript'
import ts from 'typescript-eslint'
import * as vue from 'vue-eslint-parser'

const root = import.meta.dirname
const src = join(root, 'src')

/**
 * The parser of TypeScript, whose types come from one program for all files. Its own service would make the program anew
 * for each Vue file, because the script alone, which is all it is given of one, is not what is on the disk: that took
 * four fifths of the time. It is still asked for what is not saved yet, as in an editor.
 */
export const parser = {
  meta: { name: 'jantrel-typed' },
  parseForESLint(code, options) {
    // An expression of a template has no types of its own.
    if (!options.projectService) return ts.parser.parseForESLint(code, options)
    program ??= makeProgram(options)
    const source = program.getSourceFile(inProgram(options.filePath))
    if (source?.text !== code) return ts.parser.parseForESLint(code, options)
    return ts.parser.parseForESLint(code, {
      ...options,
      filePath: source.fileName,
      projectService: undefined,
      programs: [program],
    })
  },
}

let program

/** The name of a file in the program: the script of X.vue is X.vue.ts, which is also where imports of X.vue look. */
const inProgram = (file) => (file.endsWith('.vue') ? `${file}.ts` : file)

/** One program of the page's files, and of the scripts of all its Vue files. What stands in comments is no matter to it. */
function makeProgram(parserOptions) {
  const { config } = typescript.readConfigFile(join(root, 'tsconfig.json'), typescript.sys.readFile)
  const { options, fileNames } = typescript.parseJsonConfigFileContent(config, typescript.sys, root)
  const written = fileNames.filter((file) => file.startsWith(src))
  const scripts = new Map()
  for (const file of typescript.sys.readDirectory(src, ['.vue']))
    scripts.set(inProgram(file), scriptOf(file, parserOptions))
  const host = typescript.createCompilerHost(options, true)
  host.jsDocParsingMode = typescript.JSDocParsingMode.ParseNone
  const { readFile, fileExists } = host
  host.readFile = (file) => scripts.get(file) ?? readFile(file)
  host.fileExists = (file) => scripts.has(file) || fileExists(file)
  return typescript.createProgram({ rootNames: [...written, ...scripts.keys()], options, host })
}

/** The script of a Vue file, just as the parser will be given it, whatever else is in the file. */
function scriptOf(filePath, parserOptions) {
  let script = ''
  const keep = {
    parseForESLint(code, options) {
      if (options.projectService) script = code
      return ts.parser.parseForESLint(code, { ...options, projectService: undefined })
    },
  }
  const tags = readFileSync(filePath, 'utf8').match(/^<script[^]*?^<\/script>/gm) ?? []
  vue.parseForESLint(tags.join('\n'), { ...parserOptions, filePath, parser: keep })
  return script
}
