// What is read of the text in pictures.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { pictureTextRoutes } from '@stellin/contract/pictureText';
import { call } from '../foundation/api';

const keyOf = (photoId: number) => ['photos', 'text', photoId];

/** The text that was seen in a picture. */
export function usePictureText(photoId: number) {
  return useQuery({
    queryKey: keyOf(photoId),
    queryFn: () => call(pictureTextRoutes.showPictureText, { params: { id: photoId } }),
  });
}

/** Reads the text in a picture now. */
export function useReadText(photoId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => call(pictureTextRoutes.readPictureText, { params: { id: photoId } }),
    onSuccess: (read) => client.setQueryData(keyOf(photoId), read),
  });
}
