namespace Mordel.Browser;

internal static class Program
{
    // Nothing runs by itself: the page calls what is exported.
    private static void Main() { }
}
