using System.Text;

namespace Mordel.Documents.Interchange;

/// <summary>
/// Reads bytes that are no UTF-8 as the old Western code page has them: files are often pasted together from both.
/// </summary>
internal sealed class WesternBytes : DecoderFallback
{
    private static readonly Encoding Western = CodePagesEncodingProvider.Instance.GetEncoding(1252)!;

    public override int MaxCharCount => 4;

    public override DecoderFallbackBuffer CreateFallbackBuffer() => new Buffer();

    private sealed class Buffer : DecoderFallbackBuffer
    {
        private byte[] bytes = [];
        private int at;

        public override int Remaining => bytes.Length - at;

        public override bool Fallback(byte[] bytesUnknown, int index)
        {
            (bytes, at) = (bytesUnknown, 0);
            return bytes.Length > 0;
        }

        public override char GetNextChar()
        {
            if (at >= bytes.Length)
                return '\0';
            return Western.GetString(bytes, at++, 1)[0];
        }

        public override bool MovePrevious()
        {
            if (at == 0)
                return false;
            at--;
            return true;
        }

        public override void Reset() => (bytes, at) = ([], 0);
    }
}
