import { useQueryClient } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { useNavigate, useSearchParams } from 'react-router';
import { call, ApiProblem } from '../api/client.ts';
import { Button } from '../parts/button.tsx';
import { TextField } from '../parts/form.tsx';
import { Mark } from '../parts/mark.tsx';

interface Entry {
  email: string;
  password: string;
}

export function SignIn() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const { register, handleSubmit, setError, formState } = useForm<Entry>();
  const enter = handleSubmit(async (entry) => {
    try {
      await call('post /session', { body: entry });
      client.clear();
      const to = params.get('to') ?? '/';
      // Only places of our own: an address made elsewhere must not lead away from here.
      await navigate(/^\/(?!\/|\\)/.test(to) ? to : '/', { replace: true });
    } catch (error) {
      setError('root', { message: error instanceof ApiProblem ? error.message : 'That didn’t work.' });
    }
  });
  return (
    <main className="grid min-h-screen place-items-center">
      <form onSubmit={(event) => void enter(event)} className="sheet w-[380px] space-y-4 p-8" noValidate>
        <div className="flex items-center gap-2 text-title font-bold">
          <Mark /> zusammen
        </div>
        <h1 className="text-soft">Forms and records, kept together.</h1>
        <TextField
          label="E-mail address"
          type="email"
          autoComplete="username"
          autoFocus
          error={formState.errors.email?.message}
          {...register('email', { required: 'Enter your e-mail address.' })}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="current-password"
          error={formState.errors.password?.message}
          {...register('password', { required: 'Enter your password.' })}
        />
        {formState.errors.root && (
          <p role="alert" className="rounded-[7px] bg-brick-wash px-3 py-2 text-brick">
            {formState.errors.root.message}
          </p>
        )}
        <Button type="submit" look="strong" className="w-full justify-center" busy={formState.isSubmitting}>
          Sign in
        </Button>
      </form>
    </main>
  );
}
