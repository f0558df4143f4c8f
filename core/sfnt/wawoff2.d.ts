declare module "wawoff2/build/decompress_binding.js" {
  const binding: unknown;
  export default binding;
}
