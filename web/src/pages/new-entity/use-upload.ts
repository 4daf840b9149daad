import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiProblem } from '../../api/client.ts';
import { uploadFile } from '../../api/upload.ts';

/** Sends a sheet to be read, and goes to what it would be as an entity of a system. */
export function useUpload(system: string | undefined) {
  const navigate = useNavigate();
  const [share, setShare] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const send = async (file: File): Promise<void> => {
    setProblem(undefined);
    setShare(0);
    try {
      const { file: kept } = await uploadFile(file, setShare);
      void navigate(`/schema/new?system=${system ?? ''}&file=${kept.id}`);
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error.message : String(error));
    } finally {
      setShare(undefined);
    }
  };
  return { share, problem, send };
}
