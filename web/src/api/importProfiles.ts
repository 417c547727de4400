/** Import profiles: how files of one sort are read. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "./client";

const KEY = ["import-profiles"];

export function useImportProfiles() {
  return useQuery({
    queryKey: KEY,
    queryFn: () => answer(client.GET("/api/import-profiles")),
  });
}

function useProfilesChanged() {
  const queries = useQueryClient();
  return () => queries.invalidateQueries({ queryKey: KEY });
}

export function useRenameProfile() {
  const onSuccess = useProfilesChanged();
  return useMutation({
    mutationFn: ({ id, name }: { id: number; name: string }) =>
      answer(client.PUT("/api/import-profiles/{id}", { params: { path: { id } }, body: { name } })),
    onSuccess,
  });
}

/** Deletes a profile, and gives the file that brings it back. */
export function useForgetProfile() {
  const onSuccess = useProfilesChanged();
  return useMutation({
    mutationFn: async ({ id, name }: { id: number; name: string }) => {
      const params = { path: { id } };
      const kept = await answer(
        client.GET("/api/import-profiles/{id}/export", { params, parseAs: "text" }),
      );
      await answer(client.DELETE("/api/import-profiles/{id}", { params }));
      return { name, file: new File([String(kept)], `${name}.json`) };
    },
    onSuccess,
  });
}

export function useImportProfile() {
  const onSuccess = useProfilesChanged();
  return useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("file", file);
      return answer(
        client.POST("/api/import-profiles", {
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        }),
      );
    },
    onSuccess,
  });
}
