import { useEffect, useRef, type InputHTMLAttributes, type ReactNode } from 'react';

interface KeptLineProps extends Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'defaultValue' | 'onBlur' | 'onKeyDown'> {
  value: string;
  keep: (value: string) => void;
}

/** A short field that is kept with Enter, which stays in it, and when it is left. */
export function KeptLine({ value, keep, ...more }: KeptLineProps): ReactNode {
  const field = useRef<HTMLInputElement>(null);
  const sent = useRef(value);
  useEffect(() => {
    // What is being written stays.
    if (field.current?.value === sent.current) field.current.value = value;
    sent.current = value;
  }, [value]);
  const send = (again: boolean) => {
    const written = field.current?.value ?? value;
    if (written === value || (!again && written === sent.current)) return;
    sent.current = written;
    keep(written);
  };
  return (
    <input
      ref={field}
      autoComplete="off"
      {...more}
      defaultValue={value}
      onBlur={() => send(false)}
      onKeyDown={(event) => event.key === 'Enter' && send(true)}
    />
  );
}
