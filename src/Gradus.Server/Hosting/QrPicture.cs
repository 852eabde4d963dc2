using QRCoder;

namespace Gradus.Server.Hosting;

/// <summary>QR codes as pictures.</summary>
public static class QrPicture
{
    /// <summary>A code that holds a text, as SVG.</summary>
    public static string Of(string text, int pixelsPerModule = 4)
    {
        using var generator = new QRCodeGenerator();
        using var data = generator.CreateQrCode(text, QRCodeGenerator.ECCLevel.M);
        using var code = new SvgQRCode(data);
        return code.GetGraphic(pixelsPerModule);
    }
}
