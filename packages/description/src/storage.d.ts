declare module 'class-transformer/cjs/storage' {
  export const defaultMetadataStorage: unknown;
}
