import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useId, type InputHTMLAttributes, type ReactNode } from 'react';
import { useForm, useFormState, type DefaultValues, type FieldPath, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { RequestError } from '../data/api';

interface Ruled<T extends FieldValues> {
  form: UseFormReturn<T>;
  /** For `onSubmit` of the form. */
  submit: (event?: React.BaseSyntheticEvent) => void;
}

/** Says of a field what is wrong with it where the rules of the contract have nothing against it. */
export const wrong = <T extends FieldValues>(field: FieldPath<T>, message: string) =>
  new RequestError(0, 'bad-field', message, { [field]: message });

/**
 * A form with the rules of the contract: what the server would refuse is said before it is sent, in the same words, and what
 * it refuses besides stands at the same fields.
 * @param rules a class of inputs of the contract
 * @param start what stands in the fields at first
 * @param send is called with what was written when the rules have nothing against it; what it throws is said
 */
export function useRuled<T extends FieldValues>(
  rules: new () => object,
  start: DefaultValues<T>,
  send: (values: T, form: UseFormReturn<T>) => Promise<void>,
): Ruled<T> {
  const form = useForm<T>({
    resolver: classValidatorResolver(rules as new () => T, {}, { mode: 'sync', raw: true }) as never,
    defaultValues: start,
  });
  const submit = form.handleSubmit(async (values) => {
    try {
      await send(values, form);
    } catch (problem) {
      const named = problem instanceof RequestError ? Object.entries(problem.fields).filter(([name]) => name in values) : [];
      const said = problem instanceof Error ? problem.message : 'This did not work. Try again.';
      if (!named.length) form.setError('root', { message: said });
      named.forEach(([name, message], at) =>
        form.setError(name as FieldPath<T>, { type: 'refused', message }, { shouldFocus: at === 0 }),
      );
    }
  });
  return { form, submit: (event) => void submit(event) };
}

interface RuledFieldProps<T extends FieldValues> extends Omit<InputHTMLAttributes<HTMLInputElement>, 'form' | 'name' | 'value'> {
  form: UseFormReturn<T>;
  name: FieldPath<T>;
  label: ReactNode;
  /** Said below it, while nothing is wrong. */
  hint?: string;
  /** The label is for those who do not see the field. */
  bare?: boolean;
}

/** A field of such a form: its name above, and below what is wrong with it. */
export function RuledField<T extends FieldValues>({
  form,
  name,
  label,
  hint = '',
  bare = false,
  className,
  ...input
}: RuledFieldProps<T>): ReactNode {
  const { errors } = useFormState({ control: form.control, name });
  const problem = form.getFieldState(name, { ...form.formState, errors }).error?.message;
  const own = useId();
  const id = input.id ?? own;
  return (
    <div>
      <label className={bare ? 'sr-only' : 'block pb-[3px] text-xs text-soft'} htmlFor={id}>
        {label}
      </label>
      <input
        autoComplete="off"
        aria-invalid={problem !== undefined}
        aria-describedby={`${id}-says`}
        className={className ?? 'w-full border-b border-soft bg-transparent py-1'}
        {...input}
        id={id}
        {...form.register(name, { valueAsNumber: input.type === 'number' })}
      />
      <p
        id={`${id}-says`}
        className={`mt-[3px] text-xs ${bare ? 'empty:hidden' : 'min-h-4'} ${problem ? 'text-brick' : 'text-soft'}`}
      >
        {problem ?? hint}
      </p>
    </div>
  );
}

/** What is wrong with the whole form, and not with one of its fields. */
export function FormProblem<T extends FieldValues>({ form }: { form: UseFormReturn<T> }): ReactNode {
  const { errors } = useFormState({ control: form.control });
  return (
    <p role="alert" className="text-brick empty:hidden">
      {errors.root?.message}
    </p>
  );
}
