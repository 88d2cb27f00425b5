import '@fontsource-variable/instrument-sans'
import 'rapidoc/dist/rapidoc-min.js'
