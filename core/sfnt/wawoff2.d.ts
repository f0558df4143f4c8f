declare module "wawoff2/build/decompress_binding.js" {
  const binding: unknown;
  export default binding;
}
declare module "wawoff2/build/compress_binding.js" {
  const binding: unknown;
  export default binding;
}
