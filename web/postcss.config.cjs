module.exports = {
  plugins: {
    'postcss-preset-mantine': {},
    'postcss-simple-vars': { variables: { 'mantine-breakpoint-sm': '48em' } },
  },
}
