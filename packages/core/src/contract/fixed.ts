/** As it was read, and not to be written to. */
export type Fixed<Value> = Value extends readonly (infer Item)[]
  ? readonly Fixed<Item>[]
  : Value extends object
    ? { readonly [Key in keyof Value]: Fixed<Value[Key]> }
    : Value;
